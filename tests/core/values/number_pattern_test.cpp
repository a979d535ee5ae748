// A number behind a pattern, in what a program prints.
#include "core/values/number_pattern.h"

#include <gtest/gtest.h>

namespace {

TEST(NumberPattern, FindsWhatItsGroupMatchesLast) {
  const auto number = [](std::string_view text, const char* pattern) {
    const auto found = core::lastNumberIn(text, pattern, "standard output");
    return found ? *found : -1;
  };
  constexpr std::string_view kText = "loaded in 4.5 s\nwarm\nloaded in 3.25 s\nended\n";
  EXPECT_EQ(number(kText, "loaded in ([0-9.]+) s"), 3.25);
  EXPECT_EQ(number("score: 1e3", "^score: (.*)$"), 1000) << "the ends of a line are those of the text too";
  EXPECT_EQ(number(kText, "^loaded in ([0-9]+)[.]"), 3) << "of several lines each has a begin";
  EXPECT_EQ(number("a=1 b=2", "(?:a|b)=([0-9])"), 2) << "a group that keeps nothing is none";
  EXPECT_EQ(number("x", "(y?)"), -1) << "an empty group is no number";
  EXPECT_EQ(number(std::string("caf\xe9 12"), "([0-9]+)"), 12) << "bytes that are no UTF-8 stand beside it";
}

TEST(NumberPattern, SaysWhyThereIsNone) {
  const auto reason = [](std::string_view text, const std::string& pattern) {
    const auto found = core::lastNumberIn(text, pattern, "standard output");
    return found ? "found" : found.error().sentence();
  };
  EXPECT_EQ(reason("ended\n", "loaded in ([0-9.]+) s"),
            "standard output: nothing matches the pattern 'loaded in ([0-9.]+) s'. Compare it with what the program "
            "prints.");
  EXPECT_EQ(
      reason("loaded in 1,5 s", "in (\\S+)"),
      "standard output: '1,5', which the pattern 'in (\\S+)' finds, is not a number. Have its group match the digits "
      "alone, with a point before decimals.");
  EXPECT_NE(reason("1", "[0-9]+").find("has no group"), std::string::npos);
  EXPECT_NE(reason("1", "([0-9]+").find("cannot be read at its character"), std::string::npos);
  EXPECT_NE(reason("1", "").find("empty"), std::string::npos);
  EXPECT_NE(reason("1", std::string(501, '(')).find("longer than 500"), std::string::npos);
  EXPECT_NE(reason("1", "(\\C)").find("cannot be read"), std::string::npos);
}

TEST(NumberPattern, ThatNeverEndsIsGivenUp) {
  const auto found = core::lastNumberIn(std::string(5000, 'a') + "b", "^((a+)+)+$", "standard output");
  ASSERT_FALSE(found.ok());
  EXPECT_NE(found.error().what.find("takes too long"), std::string::npos) << found.error().sentence();
  EXPECT_FALSE(core::doesMatch(std::string(5000, 'a') + "b", "^((a+)+)+$"));
  EXPECT_TRUE(core::doesMatch("one\nLOW MEMORY\n", "LOW MEMORY"));
}

}  // namespace
