// Results and logs that people bring: what they typed, how files are named, and how frames are laid over each other.
#include <gtest/gtest.h>

#include <cmath>

#include "core/estimate/effect.h"
#include "core/estimate/wording.h"
#include "core/frames/trace.h"
#include "core/record/explanation.h"
#include "core/study/name_pattern.h"
#include "core/values/plausibility.h"
#include "core/values/typed_value.h"
#include "support/studies.h"

namespace {

using core::ConfigurationId;
using core::ErrorKind;

TEST(TypedValues, AreAskedAboutWhereOneSignHasThreeDigitsBehindIt) {
  using core::DecimalSign;
  for (const char* text : {"4,780", "4.780", "about 4,780", "50 to 4,780", "57.3; sky 4,780"})
    EXPECT_EQ(core::parseTyped(text).error().kind, core::ErrorKind::Ambiguous) << text;
  EXPECT_EQ(core::parseTyped("4,780").error().what, "'4,780' is 4780 or 4.780");
  EXPECT_DOUBLE_EQ(core::parseTyped("4,780", DecimalSign::Comma)->value, 4.78);
  EXPECT_DOUBLE_EQ(core::parseTyped("4,780", DecimalSign::Point)->value, 4780);
  EXPECT_FALSE(core::parseTyped("57,3", DecimalSign::Point).ok());  // no group of three
  // What can be read in one way only is not asked about.
  for (const auto& [text, value] : {std::pair{"57,3", 57.3},
                                    {"0,780", 0.78},
                                    {"1.234,5", 1234.5},
                                    {"1,234,567", 1234567.0},
                                    {"12345.678", 12345.678},
                                    {"4.780e2", 478.0}})
    EXPECT_DOUBLE_EQ(core::parseTyped(text)->value, value) << text;
  EXPECT_FALSE(core::parseTyped("1,23,456").ok());
}

TEST(TypedValues, OfAColumnAreReadOneWay) {
  using core::DecimalSign;
  EXPECT_EQ(core::decimalSignOf({"4,780", "51,2"}), DecimalSign::Comma);
  EXPECT_EQ(core::decimalSignOf({"4,780", "1,234,567"}), DecimalSign::Point);
  EXPECT_EQ(core::decimalSignOf({"4,780", "5,012"}), DecimalSign::Unknown);
  EXPECT_EQ(core::decimalSignOf({"51,2", "51.2"}), DecimalSign::Unknown);
}

TEST(TypedValues, AreNumbersThatAProgramShows) {
  EXPECT_EQ(core::parseTyped(std::string(300, '1')).error().kind, core::ErrorKind::OutOfRange);
  EXPECT_EQ(core::parseTyped(std::string(150, '1')).error().kind, core::ErrorKind::OutOfRange);
  EXPECT_EQ(core::parseTyped(std::string(1 << 20, '-')).error().kind, core::ErrorKind::OutOfRange);
  EXPECT_EQ(core::valueText(1e300, "points"), "1e+300 points");
}

TEST(TypedValues, KnowTheirLastDigit) {
  const struct {
    const char* text;
    double value;
    double resolution;
  } cases[] = {{"57.3", 57.3, 0.1},        {"57,30", 57.3, 0.01}, {" 1 234.5 ", 1234.5, 0.1}, {"1.234,5", 1234.5, 0.1},
               {"1,234.50", 1234.5, 0.01}, {"8", 8, 1},           {"2.5e3", 2500, 100},       {"~60", 60, 1}};
  for (const auto& one : cases) {
    const auto typed = core::parseTyped(one.text);
    ASSERT_TRUE(typed.ok()) << one.text;
    EXPECT_DOUBLE_EQ(typed->value, one.value) << one.text;
    EXPECT_NEAR(typed->resolution, one.resolution, 1e-12) << one.text;
    EXPECT_FALSE(typed->is_range) << one.text;
  }
}

TEST(TypedValues, MayBeRangesOrHaveParts) {
  for (const char* text : {"50 to 60", "about 50-60", "50 – 60", "50..60", "50,0 to 60,0"}) {
    const auto typed = core::parseTyped(text);
    ASSERT_TRUE(typed.ok()) << text;
    EXPECT_DOUBLE_EQ(typed->value, 55) << text;
    EXPECT_DOUBLE_EQ(typed->resolution, 10) << text;
    EXPECT_TRUE(typed->is_range) << text;
  }
  const auto parts = core::parseTyped("57.3; sky 41,2; wide dome 88");
  ASSERT_TRUE(parts.ok());
  EXPECT_EQ(parts->parts, (std::vector<std::pair<std::string, double>>{{"sky", 41.2}, {"wide dome", 88}}));
}

TEST(TypedValues, RefuseWhatIsNoNumber) {
  for (const char* text : {"", "fast", "57.3 fps", "12 34 x", "--5", "60 to 50", "57; sky", "1e999"})
    EXPECT_FALSE(core::parseTyped(text).ok()) << text;
}

TEST(TypedValues, AreNeverKnownBetterThanTheirLastDigit) {
  const auto visits = [](double resolution) {
    return std::vector<core::VisitValues>{{ConfigurationId::Baseline, 1, 0, {50, 50, 50}, resolution},
                                          {ConfigurationId::Changed, 2, 0, {60, 60, 60}, resolution}};
  };
  EXPECT_FALSE(core::effectOf(visits(0), 0.95)->contrast.inference);  // the metric's resolution hides the spread
  const auto typed = core::effectOf(visits(1), 0.95);
  ASSERT_TRUE(typed->contrast.inference);
  EXPECT_NEAR(*typed->contrast.se, std::hypot(1 / std::sqrt(12.0) / 50, 1 / std::sqrt(12.0) / 60), 1e-12);
  EXPECT_EQ(typed->contrast.inference->df, 4);
  EXPECT_GT(*core::effectOf(visits(10), 0.95)->contrast.se, 9 * *typed->contrast.se);  // a range ten wide
}

TEST(Plausibility, FindsSlipsAndNothingElse) {
  const std::vector<double> same{57.1, 57.6, 57.4};
  const std::vector<double> other{61.3, 61.25, 62};
  EXPECT_EQ(core::whyImplausible(57.9, same, other), "");
  EXPECT_NE(core::whyImplausible(573, same, other).find("decimal point"), std::string::npos);
  EXPECT_NE(core::whyImplausible(75.3, same, other).find("as 57.3"), std::string::npos);
  EXPECT_NE(core::whyImplausible(61.25, same, other).find("the wrong screen"), std::string::npos);
  EXPECT_EQ(core::whyImplausible(62, same, other), "");  // two digits may well be alike
  EXPECT_EQ(core::whyImplausible(57, {}, {}), "");
}

TEST(NamePatterns, FindCaseAndLevelWhateverTheSigns) {
  core::Study study = support::studyOf({"w", "{log}"}, 1);
  study.variable().levels[0].name = "4800 MT/s";
  study.variable().levels[1].name = "6000 MT/s";
  core::Case other = study.cases[0];
  other.workload = "Star field";
  study.cases.push_back(other);
  const auto read = [&](const char* name, const char* pattern = "{case}_{level}_{any}") {
    return core::readName(name, pattern, study);
  };
  const auto placed = read("star-field_6000mts_03.csv");
  ASSERT_TRUE(placed.ok()) << placed.error().sentence();
  EXPECT_EQ(placed->case_index, 1U);
  EXPECT_EQ(placed->configuration, ConfigurationId::Changed);
  EXPECT_EQ(read("Ring pass 4K dome 4800 MTs.csv")->case_index, 0U);
  EXPECT_EQ(read("run 12, 4800mts, ring pass.txt", "{any}{level}{case}")->configuration, ConfigurationId::Baseline);
  EXPECT_EQ(read("ringpass_5600mts_1.csv").error().kind, ErrorKind::Malformed);
  EXPECT_EQ(read("4800mts.csv", "{level}").error().kind, ErrorKind::Missing);  // which of two cases?
  EXPECT_EQ(read("x.csv", "{case}").error().kind, ErrorKind::Malformed);
  study.cases.pop_back();
  EXPECT_EQ(read("4800mts.csv", "{level}")->configuration, ConfigurationId::Baseline);
}

TEST(Traces, LieOverEachOtherByClockOrByPlace) {
  const std::vector<double> frames{100, 300, 600};
  EXPECT_EQ(core::tracePositions(frames, core::TraceAxis::Seconds), (std::vector<double>{0, 0.1, 0.4}));
  EXPECT_EQ(core::tracePositions(frames, core::TraceAxis::ShareOfTime), (std::vector<double>{0, 10, 40}));
  EXPECT_NEAR(core::tracePositions(frames, core::TraceAxis::ShareOfFrames)[2], 66.667, 1e-3);
  // Half a second: two frames; the other half: the one that spans it.
  EXPECT_EQ(core::meanByStretch(frames, std::vector<double>{0, 0.1, 0.4}, 1, 2),
            (std::vector<double>{1000.0 / 3, 600}));
  const auto found = core::distributionOf(frames, 100, 10000, 2);
  EXPECT_NEAR(found.from_ms[1], 1000, 1e-9);
  EXPECT_DOUBLE_EQ(found.share[0] + found.share[1], 1);
}

}  // namespace
