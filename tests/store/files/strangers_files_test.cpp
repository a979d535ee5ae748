// What lies where a study should be, or beside it, and is not what it seems: nothing waits, nothing else is touched.
#include <fcntl.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <unistd.h>

#include <filesystem>
#include <numeric>

#include <gtest/gtest.h>

#include "store/files/regular_file.h"
#include "store/logs/log_blocks.h"
#include "store/study/study_file.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::ErrorKind;
using store::StudyFile;

const std::string kMagic("\xd9\xd5\x05\xf9\x20\xa1\x63\xd7", 8);

std::string bigEndian(std::uint32_t number) {
  std::string bytes;
  for (int shift = 24; shift >= 0; shift -= 8) bytes.push_back(static_cast<char>(number >> shift & 0xff));
  return bytes;
}

class SideFiles : public testing::Test {
 protected:
  SideFiles() {
    EXPECT_TRUE(StudyFile::create(path_, support::studyOf({"workload", "{log}"}, 3)).ok());
    study_ = support::contents(path_);
  }
  /// The head of a journal that holds no page, and what stands behind it.
  [[nodiscard]] std::string journal(const std::string& end = {}) const {
    std::string head = kMagic;
    const auto pages = static_cast<std::uint32_t>(study_.size() / 4096);
    for (const std::uint32_t field : {0U, 1U, pages, 512U, 4096U}) head += bigEndian(field);
    head.resize(512);
    return head + end;
  }
  void expectRefused() {
    const auto opened = StudyFile::open(path_);
    ASSERT_FALSE(opened.ok());
    EXPECT_EQ(opened.error().kind, ErrorKind::ForeignFile) << opened.error().sentence();
    EXPECT_TRUE(support::contents(path_) == study_);
    EXPECT_EQ(support::contents(precious_), "theirs");
  }
  support::TestFolder folder_;
  std::string path_ = folder_ / "study.ironlever";
  std::string precious_ = folder_.write("precious", "theirs");
  std::string study_;
};

TEST_F(SideFiles, DeleteNoFileThatAJournalNames) {
  const auto sum = static_cast<std::uint32_t>(std::accumulate(precious_.begin(), precious_.end(), 0));
  folder_.write("study.ironlever-journal",
                journal(bigEndian(262145) + precious_ + bigEndian(static_cast<std::uint32_t>(precious_.size())) +
                        bigEndian(sum) + kMagic));
  expectRefused();
  const std::string link = folder_ / "link.ironlever";  // SQLite looks beside what a link leads to
  std::filesystem::create_symlink(path_, link);
  EXPECT_EQ(StudyFile::open(link).error().kind, ErrorKind::ForeignFile);
  EXPECT_EQ(support::contents(precious_), "theirs");
}

TEST_F(SideFiles, WriteIntoNoFileThatALinkLeadsTo) {
  std::filesystem::create_symlink(precious_, path_ + "-journal");
  expectRefused();
  std::filesystem::remove(path_ + "-journal");
  std::filesystem::create_hard_link(precious_, path_ + "-journal");
  expectRefused();
}

TEST_F(SideFiles, OfAnotherProgramAreNotTakenForTheStudys) {
  for (const char* end : {"-wal", "-shm"}) {
    folder_.write(std::string("study.ironlever") + end, "");
    expectRefused();
    std::filesystem::remove(path_ + end);
  }
  folder_.write("study.ironlever-journal", "something else of the user");
  expectRefused();
  std::filesystem::remove(path_ + "-journal");
  std::string other = study_;
  other[18] = other[19] = 2;
  study_ = other;
  folder_.write("study.ironlever", other);
  expectRefused();
}

TEST_F(SideFiles, ThatAKillLeftBehindAreRolledBack) {
  for (const std::string& left : {std::string(), std::string(512, '\0'), journal()}) {
    folder_.write("study.ironlever-journal", left);
    const auto opened = StudyFile::open(path_);
    EXPECT_TRUE(opened.ok()) << opened.error().sentence();
    EXPECT_TRUE(support::contents(path_) == study_);
  }
}

// A pipe that nobody writes to would be waited for without end; the test would not come back.
TEST(PlainFiles, AreAllThatIsOpened) {
  const support::TestFolder folder;
  const std::string pipe = folder / "pipe";
  ASSERT_EQ(mkfifo(pipe.c_str(), 0600), 0);
  const std::string socket_path = folder / "socket";
  const int listening = socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0);
  sockaddr_un address{AF_UNIX, {}};
  socket_path.copy(address.sun_path, sizeof(address.sun_path) - 1);
  ASSERT_EQ(bind(listening, reinterpret_cast<const sockaddr*>(&address), sizeof(address)), 0);
  for (const std::string& path :
       {pipe, socket_path, folder.path(), std::string("/dev/zero"), std::string("/dev/tty")}) {
    EXPECT_FALSE(StudyFile::open(path).ok()) << path;
    EXPECT_FALSE(store::contentsOf(path, 1000).ok()) << path;
    EXPECT_FALSE(store::LogBlocks::ofFile(path).ok()) << path;
  }
  close(listening);
}

TEST(PlainFiles, AreLookedAtForTheirSizeFirst) {
  const support::TestFolder folder;
  const std::string sparse = folder.write("sparse", "x");
  ASSERT_EQ(truncate(sparse.c_str(), off_t{1} << 40), 0);
  EXPECT_EQ(store::contentsOf(sparse, 1 << 20).error().kind, ErrorKind::OutOfRange);
  EXPECT_EQ(store::contentsOf(folder / "none", 10).error().kind, ErrorKind::Missing);
}

}  // namespace
