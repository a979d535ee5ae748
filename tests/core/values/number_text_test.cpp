#include "core/values/number_text.h"

#include <gtest/gtest.h>

#include <cctype>
#include <clocale>

#include "core/machine/device_path.h"
#include "core/values/shown_text.h"
#include "core/values/typed_value.h"

namespace core {
namespace {

// A language of this test's own; plain again when the test ends.
class InLanguage {
 public:
  explicit InLanguage(const char* name) : is_there_(std::setlocale(LC_ALL, name) != nullptr) {}
  ~InLanguage() { std::setlocale(LC_ALL, "C"); }
  InLanguage(const InLanguage&) = delete;
  InLanguage& operator=(const InLanguage&) = delete;
  InLanguage(InLanguage&&) = delete;
  InLanguage& operator=(InLanguage&&) = delete;
  [[nodiscard]] bool isThere() const { return is_there_; }

 private:
  bool is_there_;
};

TEST(NumberText, IsANumberAsAWholeOrNone) {
  EXPECT_EQ(numberOf("57.3"), 57.3);
  EXPECT_EQ(numberOf(" -4\n"), -4);
  EXPECT_EQ(numberOf("+1e-3"), 0.001);
  for (const char* none : {"", " ", "57,3", "57.3 FPS", "+-1", "nan", "inf", "0x10", "1e999"})
    EXPECT_EQ(numberOf(none), std::nullopt) << none;
  EXPECT_EQ(leadingNumber("16.0 GT/s"), 16);
  EXPECT_EQ(leadingNumber("x16"), std::nullopt);
  EXPECT_EQ(numberTyped("22,5"), 22.5);
  EXPECT_EQ(numberTyped("1,234.5"), std::nullopt);
}

TEST(NumberText, FollowsNoLanguage) {
  for (const char* language : {"de_DE.UTF-8", "tr_TR.UTF-8"}) {
    const InLanguage in(language);
    if (!in.isThere()) GTEST_SKIP() << language << " is not made: ./lever test makes it";
    ASSERT_STREQ(std::localeconv()->decimal_point, ",");
    EXPECT_EQ(numberOf("57.3"), 57.3);
    EXPECT_EQ(gtsOf("2.5 GT/s"), 2.5);
    EXPECT_EQ(parseTyped("57.3", DecimalSign::Unknown)->value, 57.3);
    EXPECT_EQ(parseTyped("57,9", DecimalSign::Unknown)->value, 57.9);
    keepPlainLocale();
    EXPECT_STREQ(std::localeconv()->decimal_point, ".");
    EXPECT_EQ(std::tolower('I'), 'i');
  }
}

}  // namespace
TEST(ShownText, BindsAPercentSignToItsNumberOnly) {
  EXPECT_EQ(core::withBoundPercents("+7.0 % (6.1 to 7.9 %), 5 % lows in %"),
            "+7.0\xC2\xA0% (6.1 to 7.9\xC2\xA0%), 5\xC2\xA0% lows in %");
  EXPECT_EQ(core::withBoundPercents(" %"), " %");
  EXPECT_EQ(core::withBoundPercents(core::withBoundPercents("1 %")), "1\xC2\xA0%");
}

}  // namespace core
