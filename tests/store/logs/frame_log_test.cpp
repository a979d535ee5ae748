#include "store/logs/frame_log.h"

#include <gtest/gtest.h>
#include <sys/stat.h>

#include <filesystem>

#include "store/logs/json_result.h"
#include "store/study/frame_codec.h"
#include "support/test_folder.h"

namespace {

using core::ErrorKind;

core::Result<std::vector<double>> parse(std::string_view text) {
  return store::parseFrameLog(text, "frame_ms", "log.csv");
}

TEST(FrameLog, ReadsTheShapesThatWorkloadsWrite) {
  const std::vector<double> want{16.5, 17.25};
  for (const char* text : {"frame_ms\n16.5\n17.25\n", "16.5\n17.25\n", "frame_ms\r\n16.5\r\n17.25\r\n",
                           "\xEF\xBB\xBF"
                           "frame_ms\n16.5\n+17.25\n",
                           "frame,frame_ms,load\n1,16.5,3\n2, 1.725e1 ,4\n", "frame,frame_ms\n1,16.5,\n2,17.25,,\r\n",
                           "frame_ms,load\n16.5,\n17.25,4\n", "frame_ms\n16.5\n\n17.25\n", "frame_ms\n16.50\n17.25",
                           "frame_ms\n16,5\n17,25\n", "frame_ms,\n16.5,\n17.25,\n", "frame_ms;load\n16,5;3\n17,25;4\n",
                           "frame_ms,load\n16.5,3\n17.25,4"}) {
    const auto frames = parse(text);
    ASSERT_TRUE(frames.ok()) << text << frames.error().sentence();
    EXPECT_EQ(*frames, want) << text;
  }
}

TEST(FrameLog, RejectsTheWholePassForOneBadLine) {
  const struct {
    const char* text;
    ErrorKind kind;
    const char* where;
  } bad[] = {
      {"", ErrorKind::TooFew, "log.csv"},
      {"frame_ms\n", ErrorKind::TooFew, "log.csv"},
      {"frame_ms\n16.5\nabc\n", ErrorKind::Malformed, "log.csv, line 3, column 'frame_ms'"},
      {"16.5\n-3\n", ErrorKind::Malformed, "log.csv, line 2, column 'column 1'"},
      {"16.5\n0\n", ErrorKind::Malformed, "log.csv, line 2, column 'column 1'"},
      {"16.5\nnan\n", ErrorKind::Malformed, "log.csv, line 2, column 'column 1'"},
      {"16.5\ninf\n", ErrorKind::Malformed, "log.csv, line 2, column 'column 1'"},
      {"16.5\n1e999\n", ErrorKind::Malformed, "log.csv, line 2, column 'column 1'"},
      {"16.5\n1e12\n17\n", ErrorKind::Malformed, "log.csv, line 2, column 'column 1'"},
      {"16.5\n0x10\n", ErrorKind::Malformed, "log.csv, line 2, column 'column 1'"},
      {"time,ms\n1,2\n", ErrorKind::Missing, "log.csv, line 1"},
      {"frame,frame_ms\n1,16.5\n2\n", ErrorKind::Malformed, "log.csv, line 3"},
      {"frame,frame_ms,load\n1,16.5,3\n2,17.2\n", ErrorKind::Malformed, "log.csv, line 3"},
      // The last number may have been longer: cut anywhere, it would still be a number.
      {"frame_ms\n16.6\n17.12\n1", ErrorKind::Malformed, "log.csv, line 4"},
      {"frame,frame_ms\n1,16.62\n2,17.12\n3,16.", ErrorKind::Malformed, "log.csv, line 4"},
      {"frame_ms\n0.0166\n0.0171\n", ErrorKind::OutOfRange, "log.csv, column 'frame_ms'"},
      {"frame_ms\n16.6\n17.1\n16.9\n50.6\n", ErrorKind::Malformed, "log.csv, line 5, column 'frame_ms'"},
  };
  for (const auto& one : bad) {
    const auto frames = parse(one.text);
    ASSERT_FALSE(frames.ok()) << one.text;
    EXPECT_EQ(frames.error().kind, one.kind) << one.text << frames.error().sentence();
    EXPECT_EQ(frames.error().where, one.where) << one.text << frames.error().sentence();
    EXPECT_FALSE(frames.error().remedy.empty());
  }
}

TEST(FrameLog, LeavesALineAwayThatItsWriterWasStoppedIn) {
  support::TestFolder folder;
  folder.write("log.csv", "frame_ms\n16.6\n17.1\n1");
  EXPECT_FALSE(store::readFrameLog(folder / "log.csv", "frame_ms").ok());
  EXPECT_EQ(*store::readFrameLog(folder / "log.csv", "frame_ms", store::LogEnd::CutOff),
            (std::vector<double>{16.6, 17.1}));
}

// Opening a pipe would wait for ever, a device has no end, and no pass writes a gigabyte.
TEST(FrameLog, IsAPlainFileOfABoundedSize) {
  support::TestFolder folder;
  ASSERT_EQ(::mkfifo((folder / "pipe").c_str(), 0600), 0);
  for (const std::string& path : {folder / "pipe", std::string("/dev/zero"), folder / "."})
    EXPECT_EQ(store::readFrameLog(path, "frame_ms").error().kind, ErrorKind::Malformed) << path;
  folder.write("large", "frame_ms\n16\n");
  std::filesystem::resize_file(folder / "large", store::kMostLogBytes + 1);
  EXPECT_EQ(store::readFrameLog(folder / "large", "frame_ms").error().kind, ErrorKind::OutOfRange);
  std::filesystem::resize_file(folder / "large", std::uintmax_t{1} << 25);  // a line without end
  EXPECT_EQ(store::readFrameLog(folder / "large", "frame_ms").error().kind, ErrorKind::Malformed);
  EXPECT_EQ(store::readFrameLog(folder / "none", "frame_ms").error().kind, ErrorKind::Missing);
}

TEST(FrameCodec, RefusesBytesThatItDidNotWrite) {
  const std::vector<double> frames(1000, 16.6666);
  std::string packed = store::packFrames(frames);
  EXPECT_LT(packed.size(), 200U);
  EXPECT_EQ(*store::unpackFrames(packed), frames);
  EXPECT_TRUE(store::unpackFrames(store::packFrames({}))->empty());
  for (std::size_t cut = 0; cut < packed.size(); ++cut)
    EXPECT_FALSE(store::unpackFrames(packed.substr(0, cut)).ok()) << cut;
  EXPECT_FALSE(store::unpackFrames(store::packText("abc")).ok());
}

TEST(JsonResult, FindsAFieldInsideOtherOutput) {
  EXPECT_EQ(*store::numberFromJson("{\"seconds\": 41.5}", "seconds"), 41.5);
  EXPECT_EQ(*store::numberFromJson("hello {world\n{\"result\": {\"runs\": [1, 2.5]}}\nbye", "result.runs.1"), 2.5);
}

// Nested without end, or one opening after the other: read in proportion to its length, or refused.
TEST(JsonResult, HasBounds) {
  EXPECT_FALSE(store::numberFromJson(std::string(1 << 20, '['), "a").ok());
  std::string nested;
  for (int i = 0; i < 100'000; ++i) nested += "{\"a\":";
  EXPECT_FALSE(store::numberFromJson(nested + "1" + std::string(100'000, '}'), "a").ok());
  std::string openings;
  for (int i = 0; i < 200'000; ++i) openings += "{\n";
  EXPECT_FALSE(store::numberFromJson(openings, "a").ok());
  EXPECT_FALSE(store::numberFromJson("{\"a\": 1e999}", "a").ok());
}

// A banner may have some braces of its own; one of endless braces is no banner.
TEST(JsonResult, StandsBehindABannerOfSomeLines) {
  const auto behind = [](int lines) {
    std::string banner;
    for (int i = 0; i < lines; ++i) banner += "{ banner\n";
    return store::numberFromJson(banner + "{\"a\": 1}", "a");
  };
  EXPECT_TRUE(behind(49).ok());
  EXPECT_FALSE(behind(50).ok());
}

TEST(JsonResult, SaysWhatIsWrong) {
  EXPECT_EQ(store::numberFromJson("no object", "seconds").error().kind, ErrorKind::Malformed);
  EXPECT_EQ(store::numberFromJson("{\"second\": 1}", "seconds").error().kind, ErrorKind::Missing);
  EXPECT_EQ(store::numberFromJson("{\"seconds\": \"41\"}", "seconds").error().kind, ErrorKind::OutOfRange);
  EXPECT_EQ(store::numberFromJson("{\"runs\": [1]}", "runs.7").error().kind, ErrorKind::Missing);
}

}  // namespace
