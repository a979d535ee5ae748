#include <set>

#include "bench/capture_parts.h"
#include "bench/sysfs_text.h"

namespace bench {
namespace {

using core::FactKind;
using Reading = FactReader::Reading;

std::optional<Reading> bracketed(const std::string& text) { return Reading{chosen(text), std::nullopt}; }

// "none voluntary (full)" is "full".
std::optional<Reading> inParentheses(const std::string& text) {
  const auto open = text.find('(');
  const auto close = text.find(')', open == std::string::npos ? 0 : open);
  if (open == std::string::npos || close == std::string::npos) return std::nullopt;
  return Reading{text.substr(open + 1, close - open - 1), std::nullopt};
}

void captureTuning(FactReader& reader) {
  reader.read("kernel/huge_pages", "/sys/kernel/mm/transparent_hugepage/enabled", bracketed, {});
  reader.read("kernel/huge_pages_defrag", "/sys/kernel/mm/transparent_hugepage/defrag", bracketed, {});
  reader.number("kernel/huge_pages_reserved", "/proc/sys/vm/nr_hugepages", {});
  reader.number("kernel/swappiness", "/proc/sys/vm/swappiness", {});
  reader.number("kernel/numa_balancing", "/proc/sys/kernel/numa_balancing", {});
  reader.read("kernel/aspm_policy", "/sys/module/pcie_aspm/parameters/policy", bracketed, {});
  std::set<std::string> types;
  const std::string groups = "/sys/kernel/iommu_groups";
  for (const std::string& group : reader.list(groups)) types.insert(reader.raw(groups + "/" + group + "/type"));
  std::string text;
  for (const std::string& type : types) text += (text.empty() ? "" : ", ") + type;
  if (!types.empty()) reader.derived("kernel/iommu", text, {}, "", groups);
}

// Some makers show firmware settings to the system, each in a folder of its own.
void captureFirmwareSettings(FactReader& reader) {
  const std::string base = "/sys/class/firmware-attributes";
  for (const std::string& maker : reader.list(base))
    for (const std::string& setting : reader.list(base + "/" + maker + "/attributes"))
      reader.text("firmware/setting/" + setting, base + "/" + maker + "/attributes/" + setting + "/current_value");
}

void captureFirmware(FactReader& reader) {
  const std::string id = "/sys/class/dmi/id/";
  reader.text("firmware/version", id + "bios_version");
  reader.read("firmware/date", id + "bios_date",
              [](const std::string& text) {
                return std::optional(Reading{isoDate(text), std::nullopt});
              },
              {});
  reader.text("firmware/vendor", id + "bios_vendor");
  reader.text("firmware/controller", id + "ec_firmware_release");
  reader.text("firmware/board", id + "board_name");
  reader.text("firmware/board_version", id + "board_version");
  reader.text("firmware/product", id + "product_name");
  reader.read("firmware/secure_boot", "/sys/firmware/efi/efivars/SecureBoot-8be4df61-93ca-11d2-aa0d-00e098032b8c",
              [](const std::string& bytes) -> std::optional<Reading> {
                if (bytes.size() != 5) return std::nullopt;  // four attribute bytes before the value
                return Reading{bytes[4] ? "on" : "off", std::nullopt};
              },
              {});
  reader.text("firmware/platform_profile", "/sys/firmware/acpi/platform_profile");
}

}  // namespace

void captureKernel(FactReader& reader) {
  reader.text("boot/boot_id", "/proc/sys/kernel/random/boot_id", {FactKind::Volatile, "", "boot_id"});
  reader.text("boot/uptime", "/proc/uptime", {FactKind::Volatile, "", "uptime"});
  reader.text("kernel/osrelease", "/proc/sys/kernel/osrelease");
  reader.text("kernel/version", "/proc/sys/kernel/version");
  reader.read("kernel/cmdline", "/proc/cmdline",
              [](const std::string& text) {
                return std::optional(Reading{commandLineTaken(text), std::nullopt});
              },
              {});
  reader.read("kernel/preemption", "/sys/kernel/debug/sched/preempt", inParentheses, {});
  captureTuning(reader);
  captureFirmware(reader);
  captureFirmwareSettings(reader);
}

}  // namespace bench
