// What a capture's texts say about processors and about the way to a device.
#include <gtest/gtest.h>

#include "core/machine/device_path.h"
#include "core/machine/processor_lists.h"

namespace {

using core::Capture;
using core::processorsIn;

void put(Capture& capture, const std::string& name, const std::string& value) {
  core::Fact fact;
  fact.name = name;
  fact.value = value;
  char* end = nullptr;
  const double number = std::strtod(value.c_str(), &end);
  if (end != value.c_str() && *end == '\0') fact.number = number;
  capture.put(fact);
}

TEST(ProcessorLists, AreReadAsTheKernelWritesThem) {
  EXPECT_EQ(processorsIn("0-2,5"), (std::vector{0, 1, 2, 5}));
  EXPECT_EQ(processorsIn("7"), std::vector{7});
  EXPECT_EQ(processorsIn("3-3"), std::vector{3});
  for (const char* none : {"", ",", "-", "5-", "-5", "a-b", "5-4", "1x"})
    EXPECT_TRUE(processorsIn(none).empty()) << none;
  EXPECT_EQ(processorsIn("1,x,2"), (std::vector{1, 2})) << "what is no number is passed over";
  EXPECT_LE(processorsIn("0-2000000000").size(), 1U << 17) << "nor does a text make a machine of any size";
}

TEST(ProcessorSettings, AreComparedWhereBothHaveThem) {
  const auto isSame = core::isSameOnSharedProcessors;
  EXPECT_TRUE(isSame("performance", "0-7", "performance", "0-3"));
  EXPECT_FALSE(isSame("performance", "0-7", "powersave", "0-3"));
  // Half of them are off in the other: those that are left have what they had.
  EXPECT_TRUE(isSame("0 1 2 3: performance, 4 5 6 7: powersave", "0-7", "performance", "0-3"));
  EXPECT_FALSE(isSame("0 1 2 3: performance, 4 5 6 7: powersave", "0-7", "performance", "0-4"));
  EXPECT_TRUE(isSame("0 1: performance, 2 3: powersave", "0-3", "2 3: powersave, 0 1: performance", "0-3"));
  EXPECT_FALSE(isSame("0 1: performance, 2 3: powersave", "0-3", "0 1: powersave, 2 3: performance", "0-3"));
  // None is shared: then only the text is left.
  EXPECT_TRUE(isSame("performance", "0-1", "performance", "2-3"));
  EXPECT_FALSE(isSame("performance", "0-1", "powersave", "2-3"));
}

/// Links one after the other from the processor to a card: speed and lanes of each.
Capture pathOf(const std::vector<std::pair<std::string, std::string>>& links) {
  Capture capture;
  std::string chain;
  for (std::size_t i = 0; i < links.size(); ++i)
    for (const char* end : {"0", "1"}) {
      const std::string address = "0000:0" + std::to_string(i) + ":0" + end + ".0";
      chain += (chain.empty() ? "" : " ") + address;
      put(capture, "pci/" + address + "/current_link_speed", links[i].first + " GT/s PCIe");
      put(capture, "pci/" + address + "/current_link_width", links[i].second);
      put(capture, "pci/" + address + "/class", *end == '0' ? "0x060400" : "0x030000");
    }
  put(capture, "pci/card/chain", chain);
  put(capture, "pci/card/class", "0x030000");
  return capture;
}

TEST(DevicePaths, FindTheNarrowestHopByItsRateAndTheSlotNearestTheCard) {
  const auto path = core::devicePath(pathOf({{"16.0", "8"}, {"8.0", "8"}, {"16.0", "4"}}), "card");
  ASSERT_EQ(path.hops.size(), 3U);
  EXPECT_EQ(path.narrowest, 1U);  // both of the last two carry the same: the one nearest the processor is named
  EXPECT_EQ(path.slot, 2U);
  EXPECT_EQ(path.hops[2].where, "slot");
  EXPECT_EQ(path.hops[0].where, "board");
  EXPECT_TRUE(path.hasNeck());
  EXPECT_EQ(path.narrowestHop(), &path.hops[1]);
  EXPECT_FALSE(core::devicePath(pathOf({{"16.0", "8"}, {"16.0", "8"}}), "card").hasNeck()) << "all are alike";
  EXPECT_TRUE(core::devicePath({}, "card").hops.empty());
}

TEST(DevicePaths, TrustNoLinkWhoseEndsDiffer) {
  Capture capture = pathOf({{"16.0", "8"}});
  EXPECT_FALSE(core::devicePath(capture, "card").hops[0].ends_differ);
  put(capture, "pci/0000:00:01.0/current_link_width", "4");
  EXPECT_TRUE(core::devicePath(capture, "card").hops[0].ends_differ);
  put(capture, "pci/0000:00:00.0/current_link_width", "0");  // the port tells nothing: the card's own end counts
  EXPECT_EQ(core::devicePath(capture, "card").hops[0].now.lanes, 4);
  put(capture, "pci/0000:00:00.0/current_link_speed", "Unknown");
  EXPECT_EQ(core::devicePath(capture, "card").hops[0].now.lanes, 4);
}

// A card with a switch of its own: its inner link is no slot, told by its maker on both ends, never the first hop.
TEST(DevicePaths, KnowTheSwitchThatACardBrings) {
  Capture capture = pathOf({{"16.0", "8"}, {"32.0", "16"}});
  put(capture, "pci/card/vendor", "0xf1c9");
  for (const char* end : {"0000:01:00.0", "0000:01:01.0"})
    put(capture, std::string("pci/") + end + "/vendor", "0xf1c9");
  auto path = core::devicePath(capture, "card");
  EXPECT_EQ(path.hops[1].where, "inside the card");
  EXPECT_EQ(path.slot, 0U);
  for (const char* end : {"0000:00:00.0", "0000:00:01.0"})
    put(capture, std::string("pci/") + end + "/vendor", "0xf1c9");
  EXPECT_EQ(core::devicePath(capture, "card").hops[0].where, "slot") << "whoever made the port";
  put(capture, "pci/0000:01:01.0/vendor", "0xf1a0");
  EXPECT_EQ(core::devicePath(capture, "card").slot, 1U);
}

TEST(DevicePaths, TakeACablesOwnFiguresForItsVirtualPorts) {
  Capture capture = pathOf({{"2.5", "4"}, {"8.0", "4"}});
  put(capture, "pci/card/removable", "removable");
  for (const auto& [end, gbps] :
       {std::pair{"0-0", "80.0 Gb/s"}, std::pair{"0-1", "20.0 Gb/s"}, std::pair{"0-3", "10.0 Gb/s"}})
    for (const char* way : {"rx", "tx"}) {
      put(capture, std::string("thunderbolt/") + end + "/" + way + "_speed", gbps);
      put(capture, std::string("thunderbolt/") + end + "/" + way + "_lanes", "2");
    }
  const auto path = core::devicePath(capture, "card");
  EXPECT_EQ(path.hops[0].where, "cable");
  EXPECT_EQ(path.hops[0].text(), "cable, 2.5 GB/s") << "the narrowest cable of all; the host's own end is none";
  EXPECT_EQ(path.hops[1].where, "slot");
  EXPECT_EQ(path.narrowest, 0U);
  ASSERT_TRUE(path.hops[0].plausibleCopy());
  EXPECT_NEAR(path.hops[0].plausibleCopy()->hi_GBps, 0.72 * 2.5, 1e-9);
  Capture silent = pathOf({{"2.5", "4"}, {"8.0", "4"}});
  put(silent, "pci/card/removable", "removable");
  put(silent, "thunderbolt/0-1/device_name", "Tarn dock");
  const auto unknown = core::devicePath(silent, "card");
  EXPECT_EQ(unknown.hops[0].text(), "cable, rate unknown");
  EXPECT_FALSE(unknown.hops[0].rateGBps());
  EXPECT_EQ(unknown.narrowestHop(), nullptr) << "it may be narrower than any other";
  put(silent, "pci/card/removable", "fixed");
  EXPECT_EQ(core::devicePath(silent, "card").hops[0].where, "board");
}

TEST(LaneRates, AreNumbersWithTheirUnit) {
  EXPECT_EQ(core::gtsOf("16.0 GT/s PCIe"), 16.0);
  for (const char* none : {"Unknown", "16.0", "16.0 Gb/s", "0 GT/s", "-2 GT/s", "about 16 GT/s", ""})
    EXPECT_FALSE(core::gtsOf(none)) << none;
}

TEST(BuiltInDevices, HaveNoLinkOrTheFirmwaresReserve) {
  Capture inside;
  put(inside, "pci/card/class", "0x030000");
  EXPECT_TRUE(core::isBuiltIn(inside, "card"));
  EXPECT_FALSE(core::isBuiltIn(inside, "other")) << "one that the capture does not know";
  Capture linked = pathOf({{"16.0", "8"}});
  EXPECT_FALSE(core::isBuiltIn(linked, "card"));
  const double reserve = 512.0 * (1 << 20);
  put(linked, "memory/firmware_reserve", std::to_string(static_cast<long long>(reserve)));
  put(linked, "pci/card/mem_info_vram_total", std::to_string(static_cast<long long>(reserve + 64.0 * (1 << 20))));
  EXPECT_TRUE(core::isBuiltIn(linked, "card")) << "its memory is a share of main memory";
  put(linked, "pci/card/mem_info_vram_total", std::to_string(static_cast<long long>(reserve + 65.0 * (1 << 20))));
  EXPECT_FALSE(core::isBuiltIn(linked, "card"));
  put(linked, "pci/card/mem_info_vram_total", "0");
  EXPECT_FALSE(core::isBuiltIn(linked, "card"));
}

TEST(GraphicsDevices, AreTheOneThatShowsThePictureElseTheFirst) {
  Capture capture;
  EXPECT_EQ(core::likelyGraphicsDevice(capture), "");
  put(capture, "pci/0000:00:02.0/class", "0x020000");  // a network card
  put(capture, "pci/0000:01:00.0/class", "0x038000");
  put(capture, "pci/0000:02:00.0/class", "0x030000");
  EXPECT_EQ(core::likelyGraphicsDevice(capture), "0000:01:00.0");
  put(capture, "pci/0000:02:00.0/boot_vga", "1");
  EXPECT_EQ(core::likelyGraphicsDevice(capture), "0000:02:00.0");
  put(capture, "pci/0000:01:00.0/gpu_busy_percent", "9.9");
  EXPECT_TRUE(core::isIdle(capture, "0000:01:00.0"));
  put(capture, "pci/0000:01:00.0/gpu_busy_percent", "10");
  EXPECT_FALSE(core::isIdle(capture, "0000:01:00.0"));
  EXPECT_FALSE(core::isIdle(capture, "0000:02:00.0")) << "nobody could tell";
}

}  // namespace
