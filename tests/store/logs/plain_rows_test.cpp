// Plain rows are read many at a time; each number must be the very one that reading it alone gives.
#include <gtest/gtest.h>

#include <bit>
#include <cstdlib>
#include <random>

#include "store/logs/plain_rows.h"

namespace {

using store::PlainLayout;

class PlainRowsOf : public testing::Test {
 protected:
  // Reads a text that stands where bytes before it may be read.
  store::PlainRows read(const std::string& text, std::size_t columns, PlainLayout layout = {}) {
    const std::string padded = std::string(store::kReadableBefore, '7') + text;
    numbers_.assign(columns, std::vector<double>(text.size() + 1, -1));
    std::vector<double*> into;
    for (auto& column : numbers_) into.push_back(column.data());
    return store::readPlainRows(std::string_view(padded).substr(store::kReadableBefore), layout, into);
  }
  // The shortest text that is long enough for something to be read: the row again and again.
  static std::string repeated(const std::string& row, int times = 200) {
    std::string text;
    for (int i = 0; i < times; ++i) text += row;
    return text;
  }
  static bool quickness() {
#if defined(__x86_64__)
    return __builtin_cpu_supports("avx2") != 0;
#else
    return false;
#endif
  }
  void SetUp() override {
    if (!quickness()) GTEST_SKIP() << "this processor reads every row one by one";
  }

  std::vector<std::vector<double>> numbers_;
};

std::string randomDecimal(std::mt19937& draw) {
  const auto digits = [&](unsigned most) {
    std::string text;
    for (auto count = draw() % (most + 1); count > 0; --count) text += static_cast<char>('0' + draw() % 10);
    return text;
  };
  const std::string whole = digits(8);
  const std::string behind = digits(6);
  if (behind.empty()) return whole + std::to_string(draw() % 10);
  return whole + "." + behind;
}

TEST_F(PlainRowsOf, RandomDecimalsAreRoundedAsTheStandardLibraryDoes) {
  std::mt19937 draw(11);
  for (const std::size_t columns : {1U, 2U, 3U, 7U, 32U}) {
    std::string text;
    std::vector<double> expected;
    for (std::size_t row = 0; row < 1000; ++row)
      for (std::size_t c = 0; c < columns; ++c) {
        const std::string field = randomDecimal(draw);
        expected.push_back(std::strtod(field.c_str(), nullptr));
        text += field + (c + 1 < columns ? "," : "\n");
      }
    const auto rows = read(text, columns, {columns == 1 ? '\n' : ',', '.'});
    ASSERT_GT(rows.rows, 900U) << columns;
    for (std::size_t i = 0; i < rows.rows * columns; ++i)
      ASSERT_EQ(std::bit_cast<std::uint64_t>(numbers_[i % columns][i / columns]),
                std::bit_cast<std::uint64_t>(expected[i]))
          << "field " << i << " of " << columns << " columns";
  }
}

TEST_F(PlainRowsOf, EndWithAWholeLine) {
  const std::string text = repeated("1.5,20,300.25\n");
  const auto rows = read(text, 3);
  ASSERT_GT(rows.rows, 0U);
  EXPECT_EQ(rows.bytes, rows.rows * std::string("1.5,20,300.25\n").size());
  EXPECT_EQ(numbers_[2][rows.rows - 1], 300.25);
  EXPECT_EQ(numbers_[2][rows.rows], -1);
}

TEST_F(PlainRowsOf, DecimalCommasSemicolonsAndCarriageReturnsArePlain) {
  const auto rows = read(repeated("16,5;7\r\n"), 2, {';', ','});
  ASSERT_GT(rows.rows, 100U);
  EXPECT_EQ(numbers_[0][99], 16.5);
  EXPECT_EQ(numbers_[1][99], 7);
  EXPECT_EQ(rows.bytes, rows.rows * 8);
}

// One row that is not plain stands among plain ones: neither it nor any row behind it is read.
TEST_F(PlainRowsOf, StopBeforeARowThatIsNotPlain) {
  for (const char* odd : {"1.5,slow\n",
                          "1.5,-3\n",
                          "1.5,\n",
                          ",2\n",
                          "1.5,2,3\n",
                          "1.5\n",
                          "1.5, 2\n",
                          "1.5,2 \n",
                          "1.5,1e3\n",
                          "1..5,2\n",
                          "1.5.5,2\n",
                          ".,2\n",
                          "1.,2\n",
                          "1.5,12345678901234567\n",
                          "1.5,123456789012345.6\n",
                          "\"1.5\",2\n",
                          "\n",
                          "# 1,2\n",
                          "1.5,2\r\n",
                          "1.5\n2,3\n",
                          "1.5,2\n3\n",
                          "1;5,2\n"}) {
    const std::string plain = repeated("16.5,20\n", 100);
    const auto rows = read(plain + odd + plain, 2);
    EXPECT_LE(rows.rows, 100U) << odd;
    EXPECT_GE(rows.rows, 36U) << odd;
    for (std::size_t row = 0; row < rows.rows; ++row) ASSERT_EQ(numbers_[0][row], 16.5) << odd;
  }
}

TEST_F(PlainRowsOf, ACarriageReturnEndsALineOnlyBeforeALineFeed) {
  const std::string plain = repeated("16.5,20\r\n", 100);
  for (const char* odd : {"16.5\r20,3\r\n", "16.5,2\r0\r\n", "16.5,20\r\r\n", "16.5,20,\n", "16.5,20\n"}) {
    const auto rows = read(plain + odd + plain, 2);
    EXPECT_LE(rows.rows, 100U) << odd;
    EXPECT_EQ(rows.bytes, rows.rows * 9) << odd;
    for (std::size_t row = 0; row < rows.rows; ++row) ASSERT_EQ(numbers_[1][row], 20) << odd;
  }
}

TEST_F(PlainRowsOf, NeverReachBeyondATextThatIsCutOff) {
  for (const char* row : {"16.5,20\r\n", "16.5,20\n", "1,2\r\n"}) {
    const std::string text = repeated(row, 60);
    for (std::size_t length = 0; length <= text.size(); ++length) {
      const auto rows = read(text.substr(0, length), 2);
      ASSERT_LE(rows.bytes, length);
      ASSERT_EQ(rows.bytes, rows.rows * std::string(row).size());
    }
  }
}

TEST_F(PlainRowsOf, SixteenCharactersAreExactYet) {
  for (const char* field :
       {"9999999999999999", "9007199254740993", "0000000000000001", "999999999999.999", "0.00000000000001"}) {
    ASSERT_GT(read(repeated(std::string(field) + ",1\n"), 2).rows, 0U) << field;
    EXPECT_EQ(numbers_[0][0], std::strtod(field, nullptr)) << field;
  }
}

TEST_F(PlainRowsOf, TooManyColumnsOrNoneAreLeftToOthers) {
  EXPECT_EQ(read(repeated("1\n"), 0).rows, 0U);
  std::string wide = "1";
  for (int i = 0; i < 32; ++i) wide += ",1";
  EXPECT_EQ(read(repeated(wide + "\n"), 33).rows, 0U);
}

}  // namespace
