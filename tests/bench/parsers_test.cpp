#include <gtest/gtest.h>

#include "bench/pci_config.h"
#include "bench/smbios.h"
#include "bench/sysfs_text.h"
#include "support/capture_tree.h"
#include "support/test_folder.h"

namespace {

std::string tables() { return *bench::LocalBench(support::domeNode("gen4")).readFile("/sys/firmware/dmi/tables/DMI"); }
std::string config(const std::string& device) {
  return *bench::LocalBench(support::domeNode("gen3")).readFile("/sys/bus/pci/devices/" + device + "/config");
}

TEST(Smbios, ReadsModulesAndSkipsWhatVendorsAdd) {
  const auto read = bench::parseSmbios(tables());
  ASSERT_TRUE(read.ok());
  EXPECT_EQ(read->firmware_version, "D2-1.14");
  EXPECT_EQ(read->board, "Corvane D2");
  EXPECT_EQ(read->processor_cores_enabled, 4);
  ASSERT_EQ(read->modules.size(), 4U);
  EXPECT_TRUE(read->modules[0].isEmpty());
  const bench::MemoryModule& module = read->modules[1];
  EXPECT_EQ(module.locator, "DIMM_A2");
  EXPECT_EQ(module.part, "MM16-6000-C36");  // firmware pads it with blanks
  EXPECT_EQ(module.size_bytes, 16ULL << 30);
  EXPECT_EQ(module.configured_mv, 1350);
  EXPECT_FALSE(read->is_cut_short);
}

TEST(Smbios, ReadsTheSlotsAsTheBoardIsLabelled) {
  const auto slot = [](const std::string& label, char usage, const std::string& place) {
    std::string formatted{9, static_cast<char>(9 + 4 + 4), 0, 0, 1, 0, 0, usage, 0, 0, 0, 0, 0};
    formatted += place;
    formatted[1] = static_cast<char>(formatted.size());
    return formatted + label + std::string(2, '\0');
  };
  const std::string known("\0\0\0\x08", 4);      // segment 0, bus 0, device 1, function 0
  const std::string unknown("\0\0\xff\xff", 4);  // the firmware does not say
  const auto read = bench::parseSmbios(slot("SLOT 1", 4, known) + slot("SLOT 2", 3, unknown) + slot("SLOT 3", 4, ""));
  ASSERT_TRUE(read.ok());
  ASSERT_EQ(read->card_slots.size(), 3U);
  EXPECT_EQ(read->card_slots[0].label, "SLOT 1");
  EXPECT_EQ(read->card_slots[0].usage, "in use");
  EXPECT_EQ(read->card_slots[0].address, "0000:00:01.0");
  EXPECT_EQ(read->card_slots[1].usage, "free");
  EXPECT_EQ(read->card_slots[1].address, "");
  EXPECT_EQ(read->card_slots[2].address, "");  // an older structure ends before the place
}

TEST(Smbios, KeepsWhatCameBeforeADamage) {
  const std::string whole = tables();
  for (std::size_t size = 0; size < whole.size(); size += 7) {
    const auto read = bench::parseSmbios(whole.substr(0, size));
    if (!read.ok()) continue;  // too short for even one structure
    EXPECT_LE(read->modules.size(), 4U);
  }
  std::string corrupt = whole;
  corrupt[0x1A + 60] = 1;  // a structure that claims to be shorter than its own header
  EXPECT_NO_FATAL_FAILURE((void)bench::parseSmbios(corrupt));
}

TEST(PciConfig, FindsWhatFirmwareAskedFor) {
  const auto port = bench::parsePciConfig(config("0000:00:01.0"));
  ASSERT_TRUE(port);
  EXPECT_EQ(port->port_type, 4);
  EXPECT_EQ(port->target_gts, 8);
  EXPECT_EQ(port->payload_bytes, 256);
  const auto endpoint = bench::parsePciConfig(config("0000:03:00.0"));
  ASSERT_TRUE(endpoint);
  EXPECT_FALSE(endpoint->target_gts);  // only a port that faces downward is asked
}

TEST(PciConfig, RefusesShortBytesAndCircles) {
  EXPECT_FALSE(bench::parsePciConfig(config("0000:00:01.0").substr(0, 64)));
  std::string circle(256, '\0');
  circle[0x34] = 0x40;
  circle[0x40] = 0x05;
  circle[0x41] = 0x40;  // its next capability is itself
  EXPECT_FALSE(bench::parsePciConfig(circle));
}

TEST(SysfsText, ReadsNumberLists) {
  EXPECT_EQ(bench::numberList("0-2,5\n"), (std::vector<int>{0, 1, 2, 5}));
  EXPECT_EQ(bench::numberList("\n"), std::vector<int>{});
  for (const char* bad : {"3-1", "a", "1,", "0-99999999", "-1", "1--2"}) EXPECT_FALSE(bench::numberList(bad)) << bad;
}

TEST(SysfsText, ReadsLinkSpeedsOfEveryKernel) {
  EXPECT_EQ(bench::linkSpeed("16.0 GT/s PCIe\n"), "16.0 GT/s");
  EXPECT_EQ(bench::linkSpeed("8 GT/s"), "8.0 GT/s");
  for (const char* bad : {"Unknown", "Unknown speed", "", "GT/s", "x GT/s PCIe", "16. GT/s"})
    EXPECT_FALSE(bench::linkSpeed(bad)) << bad;
}

TEST(SysfsText, ReadsResourcesByTheirFlags) {
  const auto lines = bench::resourceLines(
      "0x0000006000000000 0x00000063ffffffff 0x000000000014220c\n0x0 0x0 0x0\n0x10 0x1f 0x20000200\n");
  ASSERT_TRUE(lines);
  EXPECT_EQ((*lines)[0].size(), 17179869184U);
  EXPECT_TRUE((*lines)[0].isPrefetchableMemory());
  EXPECT_EQ((*lines)[1].size(), 0U);
  EXPECT_EQ((*lines)[2].size(), 0U);  // unassigned: its size does not count
  EXPECT_FALSE(bench::resourceLines("0x0 0x1\n"));
}

TEST(SysfsText, ReadsTheRest) {
  EXPECT_EQ(bench::chosen("always [madvise] never"), "madvise");
  EXPECT_EQ(bench::isoDate("03/18/2026"), "2026-03-18");
  EXPECT_EQ(bench::isoDate("soon"), "soon");
  EXPECT_EQ(bench::meminfoBytes("MemTotal:       32812340 kB\n", "MemTotal"), 32812340ULL * 1024);
  EXPECT_FALSE(bench::meminfoBytes("MemTotal: many kB\n", "MemTotal"));
  // Of the kernel's command line what says how it runs is taken, and nothing that names a disk, a host or a person.
  EXPECT_EQ(bench::commandLineTaken("root=UUID=7f1d ro quiet pcie_aspm=off amdgpu.runpm=0 mitigations=auto,nosmt\n"),
            "root=(not taken) ro quiet pcie_aspm=off amdgpu.runpm=0 mitigations=auto,nosmt");
  EXPECT_EQ(bench::commandLineTaken("cryptdevice=/dev/sda2:vault rd.luks.uuid=luks-3f2a systemd.machine_id=9a0c "
                                    "systemd.hostname=ada-desk luks-3f2a4711-aaaa ip=10.0.0.7 Ada"),
            "cryptdevice=(not taken) rd.luks.uuid=(not taken) systemd.machine_id=(not taken) "
            "systemd.hostname=(not taken) (not taken) ip=(not taken) (not taken)");
  EXPECT_EQ(bench::linkLevels("0: 2.5GT/s, x16 619Mhz \n1: 16.0GT/s, x16 619Mhz *\n"), "2 levels, 16.0GT/s x16 active");
  EXPECT_EQ(bench::counterLines("Receiver Error 2\nTOTAL_ERR_COR 2\nrubbish\n").size(), 2U);  // split at the last blank
}

}  // namespace
