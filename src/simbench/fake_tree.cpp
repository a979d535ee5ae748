#include "simbench/fake_tree.h"

#include <algorithm>
#include <filesystem>
#include <fstream>

#include <fmt/format.h>

namespace simbench {
namespace {

constexpr double kRates[] = {0, 2.5, 5, 8, 16, 32, 64};

unsigned rateCode(double gts) {
  const auto* at = std::find(std::begin(kRates), std::end(kRates), gts);
  return at == std::end(kRates) ? 0 : static_cast<unsigned>(at - std::begin(kRates));
}

void put(std::string& bytes, std::size_t offset, std::size_t size, std::uint64_t value) {
  for (std::size_t i = 0; i < size; ++i) bytes[offset + i] = static_cast<char>(value >> (8 * i) & 0xFF);
}

// A standard header and the PCI Express capability at 0x40.
std::string configSpace(const PciDevice& device) {
  constexpr std::size_t c = 0x40;
  std::string bytes(256, '\0');
  put(bytes, 0x34, 1, c);
  put(bytes, c, 1, 0x10);
  put(bytes, c + 2, 2, 2U | (static_cast<unsigned>(device.port_type) << 4));
  put(bytes, c + 4, 4, 2);                       // packets of up to 512 bytes
  put(bytes, c + 8, 2, (1U << 5) | (2U << 12));  // 256 in use, requests of 512
  put(bytes, c + 0x10, 2, static_cast<unsigned>(device.power_saving));
  put(bytes, c + 0x12, 2, rateCode(device.gts) | (static_cast<unsigned>(device.width) << 4));
  put(bytes, c + 0x30, 2, rateCode(device.target_gts));
  return bytes;
}

std::string resourceText(std::uint64_t bar_bytes) {
  std::string text;
  for (int i = 0; i < 7; ++i) {
    if (i == 0 && bar_bytes > 0)
      text +=
          fmt::format("0x{:016x} 0x{:016x} 0x{:016x}\n", 0x6000000000ULL, 0x6000000000ULL + bar_bytes - 1, 0x14220cULL);
    else
      text += fmt::format("0x{0:016x} 0x{0:016x} 0x{0:016x}\n", 0);
  }
  return text;
}

}  // namespace

void FakeTree::text(const std::string& path, const std::string& bytes) {
  const std::filesystem::path full = std::filesystem::path(root_) / path;
  std::error_code code;
  std::filesystem::create_directories(full.parent_path(), code);
  std::ofstream file(full, std::ios::binary);
  file << bytes;
  file.close();
  is_whole_ = is_whole_ && file.good();
}

void FakeTree::lines(const std::string& folder, const std::vector<std::pair<std::string, std::string>>& values) {
  for (const auto& [name, value] : values) line(folder + "/" + name, value);
}

void FakeTree::link(const std::string& path, const std::string& target) {
  const std::filesystem::path full = std::filesystem::path(root_) / path;
  std::error_code code;
  std::filesystem::create_directories(full.parent_path(), code);
  std::filesystem::create_symlink(
      std::filesystem::relative(std::filesystem::path(root_) / target, full.parent_path(), code), full, code);
  is_whole_ = is_whole_ && !code;
}

std::string FakeTree::pci(const PciDevice& device) {
  const std::string base =
      "sys/devices/pci0000:00/" + (device.chain.empty() ? "" : device.chain + "/") + device.address;
  lines(base, {{"vendor", device.vendor},
               {"device", device.device},
               {"subsystem_vendor", device.vendor},
               {"subsystem_device", "0x0912"},
               {"class", device.class_code},
               {"revision", "0xc1"},
               {"power_state", "D0"},
               {"numa_node", "-1"},
               {"current_link_speed", fmt::format("{:.1f} GT/s PCIe", device.gts)},
               {"current_link_width", std::to_string(device.width)},
               {"max_link_speed", "16.0 GT/s PCIe"},
               {"max_link_width", "16"}});
  text(base + "/resource", resourceText(device.bar_bytes));
  text(base + "/config", configSpace(device));
  if (device.port_type == 5 || device.port_type < 2) line(base + "/link/l1_aspm", device.power_saving & 2 ? "1" : "0");
  link("sys/bus/pci/devices/" + device.address, base);
  if (!device.driver.empty()) {
    std::error_code code;
    std::filesystem::create_directories(std::filesystem::path(root_) / "sys/bus/pci/drivers" / device.driver, code);
    link(base + "/driver", "sys/bus/pci/drivers/" + device.driver);
  }
  return base;
}

void FirmwareTables::add(int type, std::size_t length, const std::vector<TableField>& fields,
                         const std::vector<std::string>& strings) {
  std::string formatted(length, '\0');
  put(formatted, 0, 1, static_cast<std::uint64_t>(type));
  put(formatted, 1, 1, length);
  put(formatted, 2, 2, next_handle_++);
  for (const TableField& field : fields) put(formatted, field.offset, field.size, field.value);
  bytes_ += formatted;
  for (const std::string& string : strings) bytes_ += string + '\0';
  bytes_ += strings.empty() ? std::string(2, '\0') : std::string(1, '\0');
}

std::string FirmwareTables::finished() {
  add(127, 4, {}, {});
  return std::move(bytes_);
}

std::string listText(const std::vector<int>& ascending) {
  std::string text;
  for (std::size_t i = 0; i < ascending.size(); ++i) {
    std::size_t last = i;
    while (last + 1 < ascending.size() && ascending[last + 1] == ascending[last] + 1) ++last;
    text += (text.empty() ? "" : ",") + std::to_string(ascending[i]) +
            (last > i ? "-" + std::to_string(ascending[last]) : "");
    i = last;
  }
  return text;
}

}  // namespace simbench
