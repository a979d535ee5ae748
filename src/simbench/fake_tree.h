#pragma once

#include <cstdint>
#include <string>
#include <utility>
#include <vector>

namespace simbench {

/// One PCI function of the fake tree. `chain`: the addresses above it, nearest the processor first, parted by slashes.
struct PciDevice {
  std::string address = {};
  std::string chain = {};
  std::string vendor = {};
  std::string device = {};
  std::string class_code = {};
  int port_type = 0;  ///< as in the PCI Express capability
  double gts = 16;
  int width = 16;
  double target_gts = 16;
  std::string driver = {};
  int power_saving = 0;         ///< enabled link states
  std::uint64_t bar_bytes = 0;  ///< the memory BAR; 0 = none
};

/// Writes files below a folder as a kernel lays them out. Failures are remembered, so that writing reads as a list.
class FakeTree {
 public:
  explicit FakeTree(std::string root) : root_(std::move(root)) {}

  void text(const std::string& path, const std::string& bytes);
  /// The value and the newline that the kernel adds.
  void line(const std::string& path, const std::string& value) { text(path, value + "\n"); }
  void lines(const std::string& folder, const std::vector<std::pair<std::string, std::string>>& values);
  void link(const std::string& path, const std::string& target);
  /// Returns the device's folder.
  std::string pci(const PciDevice& device);
  [[nodiscard]] bool isWhole() const { return is_whole_; }

 private:
  std::string root_;
  bool is_whole_ = true;
};

/// A number in a structure of the firmware's tables.
struct TableField {
  std::size_t offset = 0;
  std::size_t size = 1;
  std::uint64_t value = 0;
};

/// Builds the packed structures of the firmware's tables (SMBIOS).
class FirmwareTables {
 public:
  void add(int type, std::size_t length, const std::vector<TableField>& fields,
           const std::vector<std::string>& strings);
  /// With the end marker.
  [[nodiscard]] std::string finished();

 private:
  std::string bytes_;
  std::uint64_t next_handle_ = 0;
};

/// {0, 1, 2, 5} as "0-2,5".
[[nodiscard]] std::string listText(const std::vector<int>& ascending);

}  // namespace simbench
