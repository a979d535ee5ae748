#include "store/logs/plain_rows.h"

#include <algorithm>
#include <array>
#include <cstdint>

#if defined(__x86_64__)
#include <immintrin.h>
#endif

namespace store {

#if defined(__x86_64__)

// Rows are taken in batches, each in two steps: where do its fields end, and what numbers are they, column by column,
// two rows at a time. Nothing branches on a field's text; whether a batch was plain is asked once, at its end.
// The intrinsics' names say the machine's instruction; each function that uses them carries AVX2.

#define IRON_LEVER_AVX2 __attribute__((target("avx2,bmi,popcnt")))

namespace {

constexpr std::size_t kMostColumns = 32;
constexpr std::size_t kBatch = 64;     // rows
constexpr std::size_t kChunk = 64;     // bytes
constexpr std::uint32_t kNoMark = 32;  // what counting the zeros behind no bit gives

// 16 bytes from the n-th on are a mask of the last n + 1.
constexpr std::array<std::uint8_t, 32> tailMasks() {
  std::array<std::uint8_t, 32> masks{};
  for (std::size_t i = 15; i < 32; ++i) masks[i] = 0xFF;
  return masks;
}
constexpr auto kTail = tailMasks();

using Shuffle = std::array<std::uint8_t, 16>;

// Closes the gap of a decimal mark at byte p: what stands before it moves up by one. A mark that is the last byte stays
// there and is found out as a stranger.
constexpr std::array<Shuffle, kNoMark + 1> shufflesWithoutMark() {
  constexpr std::uint8_t kZero = 0x80;
  std::array<Shuffle, kNoMark + 1> shuffles{};
  for (std::size_t mark = 0; mark <= kNoMark; ++mark)
    for (std::size_t i = 0; i < 16; ++i)
      shuffles[mark][i] = static_cast<std::uint8_t>(mark >= 15 || i > mark ? i : i == 0 ? kZero : i - 1);
  return shuffles;
}
constexpr auto kWithoutMark = shufflesWithoutMark();

// 10 to the number of digits behind a mark at byte p.
constexpr std::array<double, kNoMark + 1> scales() {
  std::array<double, kNoMark + 1> powers{};
  powers[kNoMark] = 1;
  double power = 1;
  for (std::size_t mark = 16; mark-- > 0; power *= 10) powers[mark] = power;
  return powers;
}
constexpr auto kScale = scales();

struct Ends {
  std::array<std::uint32_t, kBatch * kMostColumns + kChunk + 1> at;  // one before the first, where a line ended
  std::size_t count = 0;
};

IRON_LEVER_AVX2 std::uint32_t separatorsIn(const char* bytes, __m256i delimiter, __m256i line_end) {
  const __m256i text = _mm256_loadu_si256(reinterpret_cast<const __m256i*>(bytes));
  const __m256i found = _mm256_or_si256(_mm256_cmpeq_epi8(text, delimiter), _mm256_cmpeq_epi8(text, line_end));
  return static_cast<std::uint32_t>(_mm256_movemask_epi8(found));
}

IRON_LEVER_AVX2 void findEnds(std::string_view text, std::size_t from, std::size_t wanted, char delimiter,
                              char line_end, Ends& ends) {
  const __m256i delimiters = _mm256_set1_epi8(delimiter);
  const __m256i line_ends = _mm256_set1_epi8(line_end);
  std::size_t count = 0;
  for (std::size_t at = from; count < wanted && at + kChunk <= text.size(); at += kChunk) {
    std::uint64_t found = separatorsIn(text.data() + at, delimiters, line_ends) |
                          static_cast<std::uint64_t>(separatorsIn(text.data() + at + 32, delimiters, line_ends)) << 32;
    const auto here = static_cast<std::size_t>(__builtin_popcountll(found));
    std::uint32_t* const into = &ends.at[count + 1];
    count += here;
    // Eight at once, and what is too much is written over: how many there are cannot be foretold.
    for (std::size_t i = 0; i < here; i += 8)
#pragma GCC unroll 8
      for (std::size_t j = 0; j < 8; ++j, found = _blsr_u64(found))
        into[i + j] = static_cast<std::uint32_t>(at + _tzcnt_u64(found));
  }
  ends.count = std::min(count, wanted);
}

IRON_LEVER_AVX2 __m256i loadTwo(const void* low, const void* high) {
  return _mm256_inserti128_si256(_mm256_castsi128_si256(_mm_loadu_si128(static_cast<const __m128i*>(low))),
                                 _mm_loadu_si128(static_cast<const __m128i*>(high)), 1);
}

// Turns fields into numbers, two at a time, and remembers whether all of them were plain.
class Decimals {
 public:
  IRON_LEVER_AVX2 explicit Decimals(char mark) : mark_(_mm256_set1_epi8(mark)) {}

  // The numbers of the fields before the two ends, side by side. Lengths are those without the last character: an empty
  // field has one beyond all bounds.
  IRON_LEVER_AVX2 __m128d take(const char* low_end, std::uint32_t low_length, const char* high_end,
                               std::uint32_t high_length) {
    lengths_ |= low_length | high_length;
    const __m256i text = loadTwo(low_end - 16, high_end - 16);
    const __m256i field = loadTwo(kTail.data() + low_length % 16, kTail.data() + high_length % 16);
    const __m256i is_mark = _mm256_and_si256(_mm256_cmpeq_epi8(text, mark_), field);
    const auto marks = static_cast<std::uint32_t>(_mm256_movemask_epi8(is_mark));
    const std::uint32_t low_mark = _tzcnt_u32(marks & 0xFFFF);
    const std::uint32_t high_mark = _tzcnt_u32(marks >> 16);
    const __m256i digits = _mm256_and_si256(_mm256_sub_epi8(text, _mm256_set1_epi8('0')), field);
    const __m256i closed =
        _mm256_shuffle_epi8(digits, loadTwo(kWithoutMark[low_mark].data(), kWithoutMark[high_mark].data()));
    strangers_ = _mm256_or_si256(strangers_, _mm256_subs_epu8(closed, _mm256_set1_epi8(9)));
    const __m256i twos = _mm256_maddubs_epi16(closed, _mm256_set1_epi16(0x010A));  // 10 a + b
    const __m256i fours = _mm256_madd_epi16(twos, _mm256_set1_epi32(0x00010064));  // 100 ab + cd
    const __m256i packed = _mm256_packus_epi32(fours, fours);
    const __m256i eights = _mm256_madd_epi16(packed, _mm256_set1_epi32(0x00012710));  // 10000 abcd + efgh
    const __m256d halves = _mm256_cvtepi32_pd(_mm256_castsi256_si128(_mm256_permute4x64_epi64(eights, 0b1000)));
    const __m256d scaled = _mm256_mul_pd(halves, _mm256_set_pd(1, 1e8, 1, 1e8));
    const __m128d low = _mm256_castpd256_pd128(scaled);
    const __m128d high = _mm256_extractf128_pd(scaled, 1);
    return _mm_div_pd(_mm_hadd_pd(low, high), _mm_set_pd(kScale[high_mark], kScale[low_mark]));
  }

  // 1 to 16 characters each: digits, and one mark at most that is not the last of them.
  IRON_LEVER_AVX2 bool werePlain() const { return lengths_ < 16 && _mm256_testz_si256(strangers_, strangers_) != 0; }

 private:
  __m256i mark_;
  __m256i strangers_ = _mm256_setzero_si256();  ///< above 0 where something else than a digit was left
  std::uint32_t lengths_ = 0;
};

IRON_LEVER_AVX2 PlainRows readWithAvx2(std::string_view text, PlainLayout layout, std::span<double* const> columns) {
  const std::size_t first_line = text.find('\n');
  const bool has_returns = first_line != std::string_view::npos && first_line > 0 && text[first_line - 1] == '\r';
  const char line_end = has_returns ? '\r' : '\n';
  const std::uint32_t line_gap = has_returns ? 2 : 1;
  const std::size_t count = columns.size();
  Ends ends;
  PlainRows read;
  for (;;) {
    findEnds(text, read.bytes, kBatch * count, layout.delimiter, line_end, ends);
    const std::size_t rows = ends.count / count & ~std::size_t{1};
    if (rows == 0) return read;
    ends.at[0] = static_cast<std::uint32_t>(read.bytes) - line_gap;
    Decimals decimals(layout.decimal);
    int misplaced = 0;
    for (std::size_t c = 0; c < count; ++c) {
      const int separator = c + 1 < count ? layout.delimiter : line_end;
      const std::uint32_t gap = (c == 0 ? line_gap : 1) + 1;
      double* const numbers = columns[c] + read.rows;
      for (std::size_t row = 0; row < rows; row += 2) {
        const std::uint32_t* const low = &ends.at[row * count + c];
        const std::uint32_t* const high = low + count;
        misplaced |= (text[low[1]] ^ separator) | (text[high[1]] ^ separator);
        _mm_storeu_pd(numbers + row, decimals.take(text.data() + low[1], low[1] - low[0] - gap, text.data() + high[1],
                                                   high[1] - high[0] - gap));
      }
    }
    for (std::size_t row = 1; has_returns && row <= rows; ++row) {  // a carriage return alone ends no line
      const std::size_t next = ends.at[row * count] + std::size_t{1};
      misplaced |= next >= text.size() || text[next] != '\n';
    }
    if (misplaced != 0 || !decimals.werePlain()) return read;
    read.rows += rows;
    read.bytes = ends.at[rows * count] + line_gap;
  }
}

}  // namespace

#undef IRON_LEVER_AVX2

#endif

PlainRows readPlainRows(std::string_view text, PlainLayout layout, std::span<double* const> columns) {
#if defined(__x86_64__)
  if (!columns.empty() && columns.size() <= kMostColumns && __builtin_cpu_supports("avx2") &&
      __builtin_cpu_supports("bmi"))
    return readWithAvx2(text, layout, columns);
#endif
  (void)text, (void)layout, (void)columns;
  return {};
}

}  // namespace store
