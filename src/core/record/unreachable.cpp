#include "core/record/unreachable.h"

#include <algorithm>
#include <array>
#include <cctype>

#include <fmt/format.h>

namespace core {
namespace {

// The rates in the standards of two generations of memory; an overclocked one falls back onto them.
constexpr std::array kMemoryRates{1600, 1866, 2133, 2400, 2666, 2933, 3200, 3600, 4000, 4400, 4800,
                                  5200, 5600, 6000, 6400, 6800, 7200, 7600, 8000, 8400, 8800};

std::optional<int> nextLower(std::string_view kind_id, int value) {
  if (kind_id == "pcie_generation" || kind_id == "core_count")
    return value > 1 ? std::optional(value - 1) : std::nullopt;
  if (kind_id == "pcie_width") return value > 1 ? std::optional(value / 2) : std::nullopt;
  if (kind_id != "memory_speed") return std::nullopt;
  const auto above = std::lower_bound(kMemoryRates.begin(), kMemoryRates.end(), value);
  return above == kMemoryRates.begin() ? std::nullopt : std::optional(*std::prev(above));
}

}  // namespace

std::optional<std::string> nextLowerLevel(std::string_view kind_id, const std::string& level_name) {
  const auto is_digit = [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; };
  const auto begin = std::find_if(level_name.begin(), level_name.end(), is_digit);
  const auto end = std::find_if_not(begin, level_name.end(), is_digit);
  constexpr std::ptrdiff_t kMostDigits = 6;
  if (begin == level_name.end() || end - begin > kMostDigits) return std::nullopt;
  const auto lower = nextLower(kind_id, std::stoi(std::string(begin, end)));
  if (!lower) return std::nullopt;
  return fmt::format("{}{}{}", std::string(level_name.begin(), begin), *lower, std::string(end, level_name.end()));
}

}  // namespace core
