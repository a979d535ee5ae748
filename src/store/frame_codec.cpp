#include "store/frame_codec.h"

#include <algorithm>
#include <bit>
#include <cstdint>
#include <cstring>

#include <zstd.h>

namespace store {
namespace {

constexpr std::size_t kWidth = sizeof(double);
// A damaged header, or a stranger's, must not eat the memory.
constexpr std::size_t kMostText = std::size_t{1} << 28;
constexpr std::size_t kMostFrames = std::size_t{1} << 28;

core::Result<std::string> unpack(std::string_view packed, std::size_t most) {
  const core::Error damaged{core::ErrorKind::DamagedFile, "a compressed value cannot be unpacked", "study file",
                            "Restore the file from a copy"};
  const auto size = ZSTD_getFrameContentSize(packed.data(), packed.size());
  if (size == ZSTD_CONTENTSIZE_ERROR || size == ZSTD_CONTENTSIZE_UNKNOWN || size > most) return damaged;
  std::string text(size, '\0');
  const auto written = ZSTD_decompress(text.data(), text.size(), packed.data(), packed.size());
  if (ZSTD_isError(written) || written != size) return damaged;
  return text;
}

}  // namespace

std::string packText(std::string_view text) {
  std::string packed(ZSTD_compressBound(text.size()), '\0');
  packed.resize(ZSTD_compress(packed.data(), packed.size(), text.data(), text.size(), 3));
  return packed;
}

core::Result<std::string> unpackText(std::string_view packed) { return unpack(packed, kMostText); }

std::string packFrames(std::span<const double> frame_ms) {
  static_assert(std::endian::native == std::endian::little, "the file format is little endian");
  // Signs and exponents of neighbouring frames are alike: side by side they compress to almost nothing.
  std::string grouped(frame_ms.size() * kWidth, '\0');
  for (std::size_t i = 0; i < frame_ms.size(); ++i) {
    char bytes[kWidth];
    std::memcpy(bytes, &frame_ms[i], kWidth);
    for (std::size_t b = 0; b < kWidth; ++b) grouped[b * frame_ms.size() + i] = bytes[b];
  }
  return packText(grouped);
}

core::Result<std::vector<double>> unpackFrames(std::string_view packed, std::optional<std::int64_t> count) {
  const auto most = count ? static_cast<std::size_t>(std::clamp<std::int64_t>(*count, 0, kMostFrames)) : kMostFrames;
  const auto grouped = unpack(packed, most * kWidth);
  if (!grouped) return grouped.error();
  if (grouped->size() % kWidth != 0 || (count && grouped->size() != most * kWidth))
    return core::Error{core::ErrorKind::DamagedFile, "a frame series has an odd length", "study file",
                       "Restore the file from a copy"};
  std::vector<double> frame_ms(grouped->size() / kWidth);
  for (std::size_t i = 0; i < frame_ms.size(); ++i) {
    char bytes[kWidth];
    for (std::size_t b = 0; b < kWidth; ++b) bytes[b] = (*grouped)[b * frame_ms.size() + i];
    std::memcpy(&frame_ms[i], bytes, kWidth);
  }
  return frame_ms;
}

}  // namespace store
