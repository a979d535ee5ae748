// Logs of every shape that people bring, and of every kind of damage. All are small and of our own making.
#include "store/logs/log_shape.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numeric>

namespace {

using core::ErrorKind;
using store::ImportedRun;
using store::TimeMeaning;

constexpr const char* kName = "ring pass.log";

/// A log, and the frames in ms that it holds, run by run.
struct Good {
  const char* name;
  std::string text;
  std::vector<std::vector<double>> runs;
};

std::ostream& operator<<(std::ostream& out, const Good& good) { return out << good.name; }

class GoodLogs : public testing::TestWithParam<Good> {};

TEST_P(GoodLogs, AreReadAsTheyAreMeant) {
  const auto shape = store::detectShape(GetParam().text, kName);
  ASSERT_TRUE(shape.ok()) << shape.error().sentence();
  const auto runs = store::importLog(GetParam().text, *shape, kName);
  ASSERT_TRUE(runs.ok()) << runs.error().sentence();
  ASSERT_EQ(runs->size(), GetParam().runs.size());
  for (std::size_t i = 0; i < runs->size(); ++i) {
    ASSERT_EQ((*runs)[i].frame_ms.size(), GetParam().runs[i].size());
    for (std::size_t f = 0; f < GetParam().runs[i].size(); ++f)
      EXPECT_NEAR((*runs)[i].frame_ms[f], GetParam().runs[i][f], 1e-9) << "frame " << f + 1;
  }
}

const std::vector<std::vector<double>> kThree{{16.5, 33.25, 17}};

INSTANTIATE_TEST_SUITE_P(
    Corpus, GoodLogs,
    testing::Values(
        Good{"OneNumberALine", "16.5\n33.25\n17\n", kThree},
        Good{"OneNumberALineWithHeader", "frame_ms\n16.50\n33.25\n17.00", kThree},
        Good{"OneNumberALineWithDecimalComma", "16,5\n33,25\n17,0\n", kThree},
        Good{"HeaderAndDecimalComma", "frame time\n16,5\n33,25\n17,0\n", kThree},
        Good{"ByteOrderMarkAndCrlf",
             "\xEF\xBB\xBF"
             "frame_ms\r\n16.5\r\n33.25\r\n17\r\n",
             kThree},
        Good{"Commas", "frame,frame_ms\n1,16.5\n2,33.25\n3,17\n", kThree},
        Good{"Semicolons", "frame;frame_ms\n1;16.5\n2;33.25\n3;17\n", kThree},
        Good{"SemicolonsWithDecimalComma", "frame;frame_ms\n1;16,5\n2;33,25\n3;17\n", kThree},
        Good{"Tabs", "frame\tframe_ms\n1\t16.5\n2\t33.25\n3\t17\n", kThree},
        Good{"TabsWithDecimalComma", "frame\tframe_ms\n1\t16,5\n2\t33,25\n3\t17,0\n", kThree},
        Good{"Bars", "frame|frame_ms\n1|16.5\n2|33.25\n3|17\n", kThree},
        Good{"Blanks", "frame frame_ms\n1   16.5\n2   33.25\n3   17\n", kThree},
        Good{"NoHeader", "1,16.5\n2,33.25\n3,17\n", kThree},
        Good{"Comments", "# drawn at night\nframe_ms\n; a remark\n16.5\n33.25\n// the last one\n17\n", kThree},
        Good{"EmptyLines", "\nframe_ms\n\n16.5\n33.25\n\n17\n\n", kThree},
        Good{"Quotes", "\"frame\",\"frame, ms\"\n\"1\",\"16.5\"\n\"2\",\"33.25\"\n\"3\",\"17\"\n", kThree},
        Good{"DoubledQuotes", "note,frame_ms\n\"a \"\"dark\"\" scene\",16.5\nb,33.25\nc,17\n", kThree},
        Good{"Seconds", "frame time (s)\n0.0165\n0.03325\n0.017\n", kThree},
        Good{"SecondsWithoutSayingSo", "0.0165\n0.03325\n0.017\n", kThree},
        Good{"Microseconds", "frame_us\n16500\n33250\n17000\n", kThree},
        Good{"Nanoseconds", "frame_ns\n16500000\n33250000\n17000000\n", kThree},
        Good{"MicrosecondsWithoutSayingSo", "16500\n33250\n17000\n", kThree},
        Good{"Exponents", "frame_ms\n1.65e1\n3.325E+01\n+17\n", kThree},
        Good{"TimeStampsInSeconds", "time (s)\n100\n100.0165\n100.04975\n100.06675\n", kThree},
        Good{"TimeStampsInMs", "time (ms),load\n5,50\n21.5,51\n54.75,50\n71.75,49\n", kThree},
        Good{"TimeStampsFromZero", "t\n0\n0.0165\n0.04975\n0.06675\n", kThree},
        Good{"DurationsBesideStamps", "time_s,frame_ms\n0,16.5\n0.0165,33.25\n0.04975,17\n", kThree},
        Good{"DurationsBesideRates", "fps,frame_ms\n60.6,16.5\n30.1,33.25\n58.8,17\n", kThree},
        Good{"DurationsBesideSensors",
             "gpu temp,cpu clock,frame_ms,gpu load %\n61,4800,16.5,97\n62,4790,33.25,98\n62,4800,17,"
             "97\n",
             kThree},
        Good{"GapsInOtherColumns", "frame_ms,power\n16.5,190\n33.25,\n17,n/a\n", kThree},
        Good{"SeveralRuns", "run,frame_ms\n1,16.5\n1,17\n2,33.25\n2,16\n", {{16.5, 17}, {33.25, 16}}},
        Good{"RunsByName", "pass;frame_ms\nmorning;16.5\nmorning;17\nevening;33.25\n", {{16.5, 17}, {33.25}}},
        Good{"RunsByAResetClock", "time (ms)\n0\n16.5\n33.5\n0\n33.25\n", {{16.5, 17}, {33.25}}},
        Good{"ProgramsThatTakeTurns",
             "program,time (ms)\norbit,0\npanel,3\norbit,16.5\npanel,36\norbit,49.75\n",
             {{16.5, 33.25}, {33}}},
        Good{"MicroSign", "frame time (\xC2\xB5s)\n16500\n33250\n17000\n", kThree},
        Good{"GreekMu", "frame time [\xCE\xBCs]\n16500\n33250\n17000\n", kThree},
        Good{"FactsBeforeTheHeader", "Bench: Dome Node\nCores,8\nframe,frame_ms\n1,16.5\n2,33.25\n3,17\n", kThree},
        Good{"RowsThatEndWithADelimiter", "frame,frame_ms,\n1,16.5,\n2,33.25,,\n3,17,\n", kThree},
        Good{"RowsThatEndWithADelimiterWithoutHeader", "16.5;\n33.25;\n17.0;\n", kThree},
        Good{"PointsBetweenThousands", "frame_us;load\n16.500,0;97\n33.250,0;98\n17.000,0;97\n", kThree},
        Good{"JsonArray", "[{\"frame_ms\": 16.5},\n {\"frame_ms\": 33.25}, {\"frame_ms\":\n17}]", kThree},
        Good{"JsonArrayInOneLine",
             R"([{"scene":"a ] {","frame_ms":16.5},{"scene":"b","frame_ms":33.25},{"frame_ms":17}])", kThree},
        Good{"JsonLines",
             "{\"frame\":1,\"frame_ms\":16.5}\n{\"frame\":2,\"frame_ms\":33.25}\n{\"frame\":3,\"frame_ms\":17}\n",
             kThree},
        Good{"JsonLinesWithTexts",
             "{\"scene\":\"gate\",\"frame_ms\":16.5}\n{\"scene\":\"ring\",\"frame_ms\":33.25}\n{\"scene\":"
             "\"dark\",\"frame_ms\":17}\n",
             kThree}),
    [](const auto& one) { return one.param.name; });

/// A damaged log, and where and why it is refused.
struct Bad {
  const char* name;
  std::string text;
  ErrorKind kind;
  const char* place;
};

std::ostream& operator<<(std::ostream& out, const Bad& bad) { return out << bad.name; }

class BadLogs : public testing::TestWithParam<Bad> {};

TEST_P(BadLogs, AreRefusedWholeWithPlaceAndRemedy) {
  const auto shape = store::detectShape(GetParam().text, kName);
  const auto runs =
      shape ? store::importLog(GetParam().text, *shape, kName) : core::Result<std::vector<ImportedRun>>(shape.error());
  ASSERT_FALSE(runs.ok());
  EXPECT_EQ(runs.error().kind, GetParam().kind) << runs.error().sentence();
  EXPECT_EQ(runs.error().where, std::string(kName) + GetParam().place) << runs.error().sentence();
  EXPECT_FALSE(runs.error().remedy.empty());
}

// Far more good rows than are looked at to find the shape, so that the damage is met while reading.
std::string manyRows(const std::string& last) {
  std::string text = "frame,frame_ms\n";
  for (int i = 1; i <= 1000; ++i) text += std::to_string(i) + ",16.5\n";
  return text + last;
}

INSTANTIATE_TEST_SUITE_P(
    Corpus, BadLogs,
    testing::Values(
        Bad{"Empty", "", ErrorKind::TooFew, ""}, Bad{"OnlyComments", "# nothing\n\n", ErrorKind::TooFew, ""},
        Bad{"OnlyAHeader", "frame,frame_ms\n", ErrorKind::TooFew, ""},
        Bad{"Binary", std::string("\x7f\x45\x4c\x46\0\0\0\1", 8), ErrorKind::Malformed, ""},
        Bad{"Prose", "the scene\nwas dark\n", ErrorKind::Malformed, ", line 2"},
        Bad{"TextInANumber", manyRows("1001,fast\n"), ErrorKind::Malformed, ", line 1002, column 'frame_ms'"},
        Bad{"NotANumber", manyRows("1001,nan\n"), ErrorKind::Malformed, ", line 1002, column 'frame_ms'"},
        Bad{"Endless", manyRows("1001,inf\n"), ErrorKind::Malformed, ", line 1002, column 'frame_ms'"},
        Bad{"Negative", manyRows("1001,-16.5\n"), ErrorKind::Malformed, ", line 1002, column 'frame_ms'"},
        Bad{"Zero", manyRows("1001,0\n"), ErrorKind::Malformed, ", line 1002, column 'frame_ms'"},
        Bad{"MissingColumn", manyRows("1001\n"), ErrorKind::Malformed, ", line 1002"},
        Bad{"OneFieldTooMany", manyRows("1001,16.5,3\n"), ErrorKind::Malformed, ", line 1002"},
        Bad{"CutOffInMidLine",
            manyRows("1001,1"
                     "6.\n100"),
            ErrorKind::Malformed, ", line 1003"},
        Bad{"ClockThatJumpsBack", "time (ms)\n0\n100\n200\n190\n300\n400\n500\n600\n700\n800\n900\n1000\n",
            ErrorKind::Malformed, ", line 5, column 'time (ms)'"},
        Bad{"TwoFramesAtOnce", "time (ms)\n0\n16\n32\n48\n48\n64\n80\n96\n112\n128\n144\n160\n176\n",
            ErrorKind::Malformed, ", line 6, column 'time (ms)'"},
        Bad{"ClockThatWasSet", "time (ms)\n0\n16\n32\n48\n64\n80\n3600096\n3600112\n3600128\n3600144\n",
            ErrorKind::Malformed, ", line 8, column 'time (ms)'"},
        Bad{"RatesOnly", "fps\n60.6\n30.1\n58.8\n", ErrorKind::Malformed, ""},
        Bad{"LabelledClosingRow", manyRows("Average,16.5\n"), ErrorKind::Malformed, ", line 1002, column 'frame'"},
        Bad{"LabelledClosingRowOfAShortLog", "frame,frame_ms\n1,16.5\n2,17\ntotal,33.5\n", ErrorKind::Malformed,
            ", line 4, column 'frame'"},
        Bad{"SumOfAll", "frame_ms\n16.5\n17\n33.25\n16\n82.75\n", ErrorKind::Malformed, ", line 6, column 'frame_ms'"},
        Bad{"MeanOfAll", "frame_ms\n16.5\n17\n33.25\n16\n20.6875\n", ErrorKind::Malformed,
            ", line 6, column 'frame_ms'"},
        Bad{"CommasOfTwoKinds", "16,5,33,2\n17,0,16,1\n", ErrorKind::Ambiguous, ", line 1"},
        Bad{"ACountOrADecimalComma", "1,16\n2,33\n3,17\n4,16\n", ErrorKind::Ambiguous, ", line 1"},
        Bad{"TwoColumnsThatTellRowsApart", "run,program,frame_ms\n1,a,16\n1,b,17\n2,a,16.5\n2,b,18\n1,a,3\n",
            ErrorKind::Ambiguous, ""},
        Bad{"AbsurdFrame", manyRows("1001,1e12\n"), ErrorKind::Malformed, ", line 1002, column 'frame_ms'"},
        Bad{"LastNumberCut", "frame_ms\n16.62\n33.25\n17.", ErrorKind::Malformed, ", line 4"},
        Bad{"JsonArrayCutOff", R"([{"frame_ms":16.5},{"frame_ms":17},{"frame)", ErrorKind::Malformed, ""},
        Bad{"JsonArrayOfNumbers", "[16.5, 17]", ErrorKind::Malformed, ""},
        Bad{"JsonCutOff", "{\"frame_ms\":16.5}\n{\"frame_ms\":1", ErrorKind::Malformed, ", line 2"},
        Bad{"JsonWithoutTheKey", "{\"frame_ms\":16.5}\n{\"frame_ms\":17}\n{\"fps\":60}\n", ErrorKind::Malformed,
            ", line 3, column 'frame_ms'"}),
    [](const auto& one) { return one.param.name; });

TEST(LogShapes, ShowWhatTheyFoundForAPersonToConfirm) {
  const auto shape = store::detectShape("time_s;frame;GPU °C\n0,0;1;61\n0,0165;2;62\n0,0335;3;62\n", kName);
  ASSERT_TRUE(shape.ok());
  EXPECT_EQ(shape->delimiter, ';');
  EXPECT_TRUE(shape->has_decimal_comma);
  EXPECT_TRUE(shape->has_header);
  EXPECT_EQ(shape->columns, (std::vector<std::string>{"time_s", "frame", "GPU °C"}));
  EXPECT_EQ(shape->time.column, 0U);
  EXPECT_EQ(shape->time.meaning, TimeMeaning::TimeStamp);
  EXPECT_EQ(shape->time.ms_per_unit, 1000);
}

// A header has so many lines before it and no more: what comes later is no header.
TEST(LogShapes, LookForAHeaderAmongTheFirstLines) {
  const auto with_lines_before = [](int count) {
    std::string text;
    for (int i = 0; i < count; ++i) text += "about this run\n";
    return store::detectShape(text + "frame_ms\n16.5\n17\n16.6\n", kName);
  };
  ASSERT_TRUE(with_lines_before(20).ok());
  EXPECT_EQ(with_lines_before(20)->columns, std::vector<std::string>{"frame_ms"});
  EXPECT_FALSE(with_lines_before(22).ok());
}

// A guess is put before a person: the unit of numbers whose name says none, and of frames that are unlikely.
TEST(LogShapes, SayWhereTheUnitIsAGuess) {
  const auto is_sure = [](const char* text) { return store::detectShape(text, kName)->is_unit_sure; };
  EXPECT_TRUE(is_sure("frame_ms\n16.5\n17\n"));
  EXPECT_FALSE(is_sure("frame time\n16.5\n17\n"));
  EXPECT_FALSE(is_sure("render\n16.5\n17\n"));
  EXPECT_FALSE(is_sure("duration_90kHz\n1485\n1530\n1500\n"));
  EXPECT_TRUE(is_sure("time (s)\n100\n100.0165\n100.04975\n100.06675\n"));
  EXPECT_FALSE(is_sure("16.5\n17\n"));
  EXPECT_FALSE(is_sure("frame time\n0.25\n0.26\n"));    // 250 ms, or a quarter of one
  EXPECT_FALSE(is_sure("frame_us\n16.667\n16.512\n"));  // points between thousands, most likely
  EXPECT_FALSE(is_sure("frame time (s)\n16.6\n16.5\n"));
}

// Stamps of frames that stand in the wrong order are no durations.
TEST(LogShapes, TakeNoClockThatRunsDown) {
  std::string text = "time_ms\n";
  for (int i = 20; i > 0; --i) text += std::to_string(16 * i) + "\n";
  EXPECT_FALSE(store::detectShape(text, kName).ok());
  EXPECT_TRUE(store::detectShape("time_ms\n17.2\n17.1\n17\n16.9\n17.3\n", kName).ok()) << "a few may fall by chance";
}

TEST(LogShapes, KeepTheOtherColumnsBesideTheirFrames) {
  const std::string text = "frame_ms,power\n16.5,190\n17,\n33.25,200\n";
  const auto runs = store::importLog(text, *store::detectShape(text, kName), kName);
  ASSERT_TRUE(runs.ok());
  ASSERT_EQ(runs->front().others.size(), 1U);
  EXPECT_EQ(runs->front().others[0][0], 190);
  EXPECT_TRUE(std::isnan(runs->front().others[0][1]));
}

TEST(LogShapes, TakeAPersonsWordAgainstTheirOwn) {
  const std::string text = "a,b\n16.5,33\n17,34\n";
  auto shape = *store::detectShape(text, kName);
  shape.time.column = 1;
  EXPECT_EQ(store::importLog(text, shape, kName)->front().frame_ms, (store::Numbers{33, 34}));
  shape.time.column = 7;
  EXPECT_EQ(store::importLog(text, shape, kName).error().kind, ErrorKind::OutOfRange);
}

}  // namespace
