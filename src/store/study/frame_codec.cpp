#include "store/study/frame_codec.h"

#include <algorithm>
#include <bit>
#include <cstdint>
#include <memory>
#include <new>

#include <zstd.h>

namespace store {
namespace {

constexpr std::size_t kWidth = sizeof(double);
constexpr std::size_t kPiece = std::size_t{1} << 17;
constexpr int kLevel = 3;
// A damaged header, or a stranger's, must not eat the memory.
constexpr std::size_t kMostText = std::size_t{1} << 28;

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

std::optional<std::uint64_t> unpackedSize(std::string_view packed) {
  const auto size = ZSTD_getFrameContentSize(packed.data(), packed.size());
  if (size == ZSTD_CONTENTSIZE_ERROR || size == ZSTD_CONTENTSIZE_UNKNOWN) return std::nullopt;
  return size;
}

std::string packText(std::string_view text) {
  std::string packed(ZSTD_compressBound(text.size()), '\0');
  packed.resize(ZSTD_compress(packed.data(), packed.size(), text.data(), text.size(), kLevel));
  return packed;
}

core::Result<std::string> unpackText(std::string_view packed) { return unpack(packed, kMostText); }

// The planes of the numbers' bytes go through the compressor piece by piece: a long series is not held twice.
std::string packFrames(std::span<const double> frame_ms) {
  static_assert(std::endian::native == std::endian::little, "the file format is little endian");
  const std::unique_ptr<ZSTD_CCtx, decltype(&ZSTD_freeCCtx)> context(ZSTD_createCCtx(), &ZSTD_freeCCtx);
  ZSTD_CCtx_setParameter(context.get(), ZSTD_c_compressionLevel, kLevel);
  ZSTD_CCtx_setPledgedSrcSize(context.get(), frame_ms.size() * kWidth);
  std::string packed;
  std::vector<char> piece;
  piece.reserve(kPiece);
  std::vector<char> room(ZSTD_CStreamOutSize());
  const auto compress = [&](ZSTD_EndDirective end) {
    ZSTD_inBuffer in{piece.data(), piece.size(), 0};
    for (std::size_t left = 1; left > 0;) {
      ZSTD_outBuffer out{room.data(), room.size(), 0};
      left = ZSTD_compressStream2(context.get(), &out, &in, end);
      if (ZSTD_isError(left)) throw std::bad_alloc();  // nothing else can go wrong with bytes that are there
      packed.append(room.data(), out.pos);
      if (end == ZSTD_e_continue && in.pos == in.size) break;
    }
    piece.clear();
  };
  // Signs and exponents of neighbouring frames are alike: side by side they compress to almost nothing.
  const auto* const bytes = reinterpret_cast<const char*>(frame_ms.data());
  for (std::size_t b = 0; b < kWidth; ++b)
    for (std::size_t i = 0; i < frame_ms.size(); ++i) {
      piece.push_back(bytes[i * kWidth + b]);
      if (piece.size() == kPiece) compress(ZSTD_e_continue);
    }
  compress(ZSTD_e_end);
  return packed;
}

core::Result<std::vector<double>> unpackFrames(std::string_view packed, std::optional<std::int64_t> count) {
  const core::Error damaged{core::ErrorKind::DamagedFile, "a frame series cannot be unpacked", "study file",
                            "Restore the file from a copy"};
  const auto most = count ? static_cast<std::size_t>(std::clamp<std::int64_t>(*count, 0, kMostFrames)) : kMostFrames;
  const auto size = ZSTD_getFrameContentSize(packed.data(), packed.size());
  if (size == ZSTD_CONTENTSIZE_ERROR || size == ZSTD_CONTENTSIZE_UNKNOWN || size > most * kWidth) return damaged;
  if (size % kWidth != 0 || (count && size != most * kWidth)) return damaged;
  std::vector<double> frame_ms(size / kWidth);
  auto* const bytes = reinterpret_cast<char*>(frame_ms.data());
  const std::unique_ptr<ZSTD_DCtx, decltype(&ZSTD_freeDCtx)> context(ZSTD_createDCtx(), &ZSTD_freeDCtx);
  std::vector<char> piece(std::clamp<std::size_t>(size, 1, ZSTD_DStreamOutSize()));
  ZSTD_inBuffer in{packed.data(), packed.size(), 0};
  std::size_t plane = 0;
  std::size_t index = 0;
  std::size_t done = 0;
  for (std::size_t left = 1; left > 0;) {  // 0 where the compressed frame has come to its end
    ZSTD_outBuffer out{piece.data(), piece.size(), 0};
    left = ZSTD_decompressStream(context.get(), &out, &in);
    if (ZSTD_isError(left) || done + out.pos > size || (out.pos == 0 && in.pos == in.size && left > 0)) return damaged;
    done += out.pos;
    for (std::size_t from = 0; from < out.pos;) {  // as far as the plane goes
      const std::size_t run = std::min(out.pos - from, frame_ms.size() - index);
      char* to = bytes + index * kWidth + plane;
      for (std::size_t k = 0; k < run; ++k, to += kWidth) *to = piece[from + k];
      from += run;
      index = (index + run) % frame_ms.size();
      plane += index == 0 ? 1 : 0;
    }
  }
  return done == size && in.pos == in.size ? core::Result<std::vector<double>>(std::move(frame_ms)) : damaged;
}

}  // namespace store
