#include "probe/page_memory.h"

#include <sys/mman.h>

#include <algorithm>
#include <charconv>
#include <cstring>
#include <fstream>
#include <string>

namespace probe {
namespace {

constexpr std::size_t kHugePage = 2U << 20U;

std::size_t leadingNumber(const std::string& text, int base) {
  std::size_t number = 0;
  std::from_chars(text.data(), text.data() + text.size(), number, base);
  return number;
}

std::string lineOf(const std::string& path) {
  std::ifstream file(path);
  std::string line;
  std::getline(file, line);
  return line;
}

}  // namespace

PageMemory::PageMemory(std::size_t bytes, bool is_huge) : bytes_((bytes + kHugePage - 1) / kHugePage * kHugePage) {
  // One page more, so that it can begin at a page's border.
  void* mapped = ::mmap(nullptr, bytes_ + kHugePage, PROT_READ | PROT_WRITE, MAP_PRIVATE | MAP_ANONYMOUS, -1, 0);
  if (mapped == MAP_FAILED) return;
  const auto address = reinterpret_cast<std::uintptr_t>(mapped);
  const std::uintptr_t begin = (address + kHugePage - 1) / kHugePage * kHugePage;
  if (begin > address) ::munmap(mapped, begin - address);
  if (const std::size_t behind = address + kHugePage - begin; behind > 0)
    ::munmap(reinterpret_cast<void*>(begin + bytes_), behind);
  begin_ = reinterpret_cast<void*>(begin);
  ::madvise(begin_, bytes_, is_huge ? MADV_HUGEPAGE : MADV_NOHUGEPAGE);
  std::memset(begin_, 1, bytes_);
}

PageMemory::~PageMemory() {
  if (begin_ != nullptr) ::munmap(begin_, bytes_);
}

std::span<std::uint64_t> PageMemory::words() const {
  return {static_cast<std::uint64_t*>(begin_), begin_ == nullptr ? 0 : bytes_ / sizeof(std::uint64_t)};
}

// The kernel lists each mapping with its first address, and how much of it lies on huge pages. Neighbours of one kind
// are one mapping.
double PageMemory::hugePercent() const {
  std::ifstream maps("/proc/self/smaps");
  bool is_ours = false;
  const auto begin = reinterpret_cast<std::uintptr_t>(begin_);
  for (std::string line; std::getline(maps, line);) {
    const auto dash = line.find('-');
    const auto blank = line.find(' ');
    if (dash < blank && blank != std::string::npos && line.find(':') > dash)
      is_ours = leadingNumber(line, 16) <= begin && begin < leadingNumber(line.substr(dash + 1), 16);
    constexpr std::string_view kKey = "AnonHugePages:";
    if (!is_ours || !line.starts_with(kKey)) continue;
    const auto digit = line.find_first_of("0123456789");
    const double bytes = static_cast<double>(leadingNumber(line.substr(digit), 10)) * 1024;
    return std::min(100.0, 100 * bytes / static_cast<double>(bytes_));
  }
  return 0;
}

int largestCacheMiB() {
  std::size_t most = 0;
  for (int i = 0; i < 8; ++i) {
    const std::string size = lineOf("/sys/devices/system/cpu/cpu0/cache/index" + std::to_string(i) + "/size");
    if (size.ends_with('K')) most = std::max(most, leadingNumber(size, 10) / 1024);
    if (size.ends_with('M')) most = std::max(most, leadingNumber(size, 10));
  }
  return static_cast<int>(most);
}

}  // namespace probe
