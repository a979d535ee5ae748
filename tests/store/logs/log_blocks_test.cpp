// Blocks of a log: every line belongs to exactly one of them, whole.
#include <gtest/gtest.h>

#include <cerrno>
#include <cstdint>

#include <fmt/format.h>

#include "store/logs/log_blocks.h"
#include "support/test_folder.h"

namespace {

std::string together(const store::LogBlocks& log) {
  std::string all;
  std::vector<char> buffer;
  for (std::size_t block = 0; block < log.count(); ++block) {
    const auto lines = log.lines(block, buffer);
    EXPECT_TRUE(lines.ok());
    EXPECT_TRUE(all.empty() || all.back() == '\n' || lines->empty()) << "block " << block;
    all += *lines;
  }
  return all;
}

TEST(LogBlocks, HoldEveryLineOnceWhereverBlocksBegin) {
  // Lines that end just before, at, and just behind where a block ends, and lines of many blocks.
  for (const std::size_t length : {1U, 2U, 3U, 27U, 511U, 512U, 513U, 4096U, 524287U, 524288U, 524289U, 1500000U}) {
    std::string text;
    for (int line = 0; text.size() < 1600000; ++line) text += fmt::format("{:<{}}\n", line % 10, length - 1);
    EXPECT_EQ(together(store::LogBlocks::ofText(text)), text) << length;
    text.pop_back();  // cut off before its last line end
    EXPECT_EQ(together(store::LogBlocks::ofText(text)), text) << length;
  }
  EXPECT_EQ(store::LogBlocks::ofText("").count(), 0U);
}

TEST(LogBlocks, LeaveOutAByteOrderMark) {
  EXPECT_EQ(together(store::LogBlocks::ofText("\xEF\xBB\xBF"
                                              "a\nb")),
            "a\nb");
  EXPECT_EQ(together(store::LogBlocks::ofText("\xEF\xBB\xBF")), "");
}

TEST(LogBlocks, OfAFileAreThoseOfItsText) {
  const support::TestFolder folder;
  std::string text;
  for (std::int64_t line = 0; line < 200000; ++line) text += fmt::format("{}\n", line * line);
  folder.write("log.csv", text);
  const auto log = store::LogBlocks::ofFile(folder / "log.csv");
  ASSERT_TRUE(log.ok());
  EXPECT_GT(log->count(), 2U);
  EXPECT_EQ(together(*log), text);
}

// Somebody cut it meanwhile: it ends where it ends, whatever error was left standing by something else.
TEST(LogBlocks, OfAFileThatGotShorterEndThere) {
  const support::TestFolder folder;
  folder.write("log.csv", std::string(1 << 20, '\n'));
  const auto log = store::LogBlocks::ofFile(folder / "log.csv");
  ASSERT_TRUE(log.ok());
  folder.write("log.csv", "1\n2\n");
  errno = EINTR;
  EXPECT_EQ(together(*log), "1\n2\n");
}

TEST(LogBlocks, OfNoFileNameIt) {
  const support::TestFolder folder;
  EXPECT_EQ(store::LogBlocks::ofFile(folder / "none.csv").error().kind, core::ErrorKind::Missing);
  EXPECT_EQ(store::LogBlocks::ofFile(folder.path()).error().kind, core::ErrorKind::Malformed);
}

}  // namespace
