#include "core/machine/links.h"

#include <array>
#include <cmath>

#include <fmt/format.h>

namespace core {
namespace {

constexpr std::array<double, 6> kRates{2.5, 5, 8, 16, 32, 64};

double encodingOf(double gts) {
  if (gts <= 5) return 8.0 / 10.0;
  return gts < 64 ? 128.0 / 130.0 : 1.0;
}

}  // namespace

std::optional<int> pcieGeneration(double gts) {
  for (std::size_t i = 0; i < kRates.size(); ++i)
    if (std::abs(gts - kRates[i]) < 0.01) return static_cast<int>(i) + 1;
  return std::nullopt;
}

double encodedGbps(const LinkGrade& link) { return link.gts * link.lanes * encodingOf(link.gts); }
double encodedGBps(const LinkGrade& link) { return encodedGbps(link) / 8; }

std::optional<RateBand> plausibleCopy(const LinkGrade& link) {
  if (link.gts >= 64 || link.lanes < 1) return std::nullopt;
  return RateBand{0.80 * encodedGBps(link), 0.90 * encodedGBps(link)};
}

RateBand plausibleCableCopy(double rate_GBps) { return {0.50 * rate_GBps, 0.72 * rate_GBps}; }

double payloadFactor(int payload_bytes, int header_bytes) {
  return static_cast<double>(payload_bytes) / static_cast<double>(payload_bytes + header_bytes);
}

double memoryPeakGBps(double mts, int bus_bits) { return mts * bus_bits / 8000; }

RateBand plausibleMemoryRead(double peak_GBps) { return {0.70 * peak_GBps, 0.90 * peak_GBps}; }

std::string linkText(const LinkGrade& link) {
  if (link.lanes < 1) return "x0: no link";
  const auto generation = pcieGeneration(link.gts);
  const std::string grade = generation ? fmt::format("Gen {}", *generation) : fmt::format("{:g} GT/s", link.gts);
  return fmt::format("{} x{}, {:.1f} GB/s", grade, link.lanes, encodedGBps(link));
}

bool isLinkEnd(const std::string& field) {
  return field.ends_with("/current_link_speed") || field.ends_with("/current_link_width");
}

}  // namespace core
