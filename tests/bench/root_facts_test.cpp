// The helper that reads as root what only root may read: what it copies, and that nobody can make it write elsewhere.
#include <gtest/gtest.h>

#include <grp.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdlib>
#include <filesystem>
#include <functional>

#include "bench/capture.h"
#include "support/capture_tree.h"
#include "support/test_folder.h"

namespace {

TEST(RootFacts, AreCopiedByTheHelper) {
  const support::TestFolder folder;
  const std::string command = std::string(IRON_LEVER_SOURCE) + "/tools/iron-lever-root-facts '" + folder.path() +
                              "' '" + support::domeNode("gen4") + "' >/dev/null";
  ASSERT_EQ(std::system(command.c_str()), 0);
  const bench::LocalBench copied(folder.path());
  EXPECT_EQ(bench::bootId(copied), bench::bootId(bench::LocalBench(support::domeNode("gen4"))));
  EXPECT_EQ(copied.readFile("/sys/bus/pci/devices/0000:00:01.0/config")->size(), 256U);
}

/// As root, with somebody else who called sudo.
class RootFactsOfTwoUsers : public testing::Test {
 protected:
  static constexpr uid_t kNobody = 65534;
  void SetUp() override {
    if (geteuid() != 0) GTEST_SKIP() << "what root does is tried as root";
    folder_.write("outside", "theirs\n");
    std::filesystem::create_directory(room_);
  }
  void giveToNobody(const std::string& path) const { ASSERT_EQ(lchown(path.c_str(), kNobody, kNobody), 0); }
  /// What the helper, called by nobody through sudo, ends with.
  int run(const std::string& where) const {
    const std::string command = "SUDO_UID=65534 SUDO_GID=65534 '" + std::string(IRON_LEVER_SOURCE) +
                                "/tools/iron-lever-root-facts' '" + where + "' >/dev/null 2>&1";
    return std::system(command.c_str());
  }
  /// What nobody gets for it.
  static bool canNobody(const std::function<bool()>& act) {
    const pid_t child = fork();
    if (child == 0)
      std::_Exit(setgroups(0, nullptr) == 0 && setgid(kNobody) == 0 && setuid(kNobody) == 0 && act() ? 0 : 1);
    int status = 0;
    waitpid(child, &status, 0);
    return WIFEXITED(status) && WEXITSTATUS(status) == 0;
  }
  support::TestFolder folder_;
  std::string room_ = folder_ / "room";
  std::string facts_ = folder_ / "room/facts";
};

TEST_F(RootFactsOfTwoUsers, WriteThroughNoLinkThatWasPutThere) {
  // The folder of an earlier run, which belonged to whoever called sudo.
  const std::string planted = facts_ + "/proc/sys/kernel/random";
  std::filesystem::create_directories(planted);
  std::filesystem::create_symlink(folder_ / "outside", planted + "/boot_id");
  for (const char* each : {"", "/proc", "/proc/sys", "/proc/sys/kernel", "/proc/sys/kernel/random"})
    giveToNobody(facts_ + each);
  EXPECT_EQ(run(facts_), 0);
  EXPECT_EQ(support::contents(folder_ / "outside"), "theirs\n");
  EXPECT_FALSE(std::filesystem::is_symlink(planted + "/boot_id"));
  EXPECT_EQ(std::distance(std::filesystem::directory_iterator(room_), {}), 1) << "nothing else is left behind";
}

TEST_F(RootFactsOfTwoUsers, AreReadByWhoCalledSudoAndChangedByNobody) {
  ASSERT_EQ(run(facts_), 0);
  ASSERT_EQ(chmod(folder_.path().c_str(), 0755), 0);
  ASSERT_EQ(chmod(room_.c_str(), 0755), 0);
  const std::string boot_id = facts_ + "/proc/sys/kernel/random/boot_id";
  EXPECT_TRUE(canNobody([&] { return access(boot_id.c_str(), R_OK) == 0; }));
  EXPECT_FALSE(canNobody([&] { return access(boot_id.c_str(), W_OK) == 0; }));
  EXPECT_FALSE(canNobody([&] { return symlink("/etc/passwd", (facts_ + "/new").c_str()) == 0; }));
  EXPECT_FALSE(canNobody([&] { return rename(facts_.c_str(), (facts_ + "-away").c_str()) == 0; }));
}

TEST_F(RootFactsOfTwoUsers, AreRefusedWhereSomebodyElseMayChangeTheWay) {
  giveToNobody(room_);
  EXPECT_NE(run(facts_), 0);
  EXPECT_FALSE(std::filesystem::exists(facts_));
  std::filesystem::create_directory(folder_ / "mine");
  std::filesystem::create_symlink(folder_ / "mine", folder_ / "way");
  EXPECT_NE(run(folder_ / "way/facts"), 0) << "a link on the way";
  EXPECT_NE(run(folder_ / "mine/../mine/facts"), 0);
  std::filesystem::create_directory(folder_ / "mine/facts");
  folder_.write("mine/facts/precious", "theirs\n");
  EXPECT_NE(run(folder_ / "mine/facts"), 0) << "a folder that holds something else";
  EXPECT_EQ(support::contents(folder_ / "mine/facts/precious"), "theirs\n");
}

}  // namespace
