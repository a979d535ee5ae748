// Who else has a study open, and how a study's file is called.
#include "session/user/open_mark.h"

#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <filesystem>

#include "session/user/study_names.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using session::OpenMark;

class OpenMarks : public testing::Test {
 protected:
  support::TestFolder folder_;
  std::string study_ = folder_ / "study.ironlever";
  std::string mark_ = study_ + ".open";
};

TEST_F(OpenMarks, NameEverybodyElse) {
  const OpenMark one(study_, "M. Osei");
  EXPECT_TRUE(one.others().empty());
  {
    const OpenMark two(study_, "T. Varga");
    ASSERT_EQ(one.others().size(), 1U);
    EXPECT_TRUE(one.others()[0].starts_with("T. Varga, process ")) << one.others()[0];
    ASSERT_EQ(two.others().size(), 1U);
    EXPECT_TRUE(two.others()[0].starts_with("M. Osei, process ")) << two.others()[0];
  }
  EXPECT_TRUE(one.others().empty()) << "the second has closed it";
}

TEST_F(OpenMarks, GoWithTheLastHolder) {
  {
    const auto one = std::make_unique<OpenMark>(study_, "M. Osei");
    auto two = std::make_unique<OpenMark>(study_, "T. Varga");
    two.reset();
    EXPECT_TRUE(std::filesystem::exists(mark_));
  }
  EXPECT_FALSE(std::filesystem::exists(mark_));
}

TEST_F(OpenMarks, ForgetWhoeverWasKilled) {
  const pid_t process = ::fork();
  if (process == 0) {
    const OpenMark mark(study_, "T. Varga");
    ::raise(SIGKILL);
  }
  ::waitpid(process, nullptr, 0);
  ASSERT_TRUE(std::filesystem::exists(mark_)) << "nobody could remove it";
  {
    const OpenMark one(study_, "M. Osei");
    EXPECT_TRUE(one.others().empty());
  }
  EXPECT_FALSE(std::filesystem::exists(mark_));
}

TEST_F(OpenMarks, ShowOneLineOfWhateverStandsThere) {
  const OpenMark one(study_, "M. Osei");
  const OpenMark two(study_, "T. Varga\n\x1b[2Jgone " + std::string(400, 'x'));
  ASSERT_EQ(one.others().size(), 1U);
  EXPECT_EQ(one.others()[0], "T. Varga");
}

TEST_F(OpenMarks, AreNotMissedWhereNoneCanBeMade) {
  const OpenMark nowhere(folder_ / "missing/study.ironlever", "M. Osei");
  EXPECT_TRUE(nowhere.others().empty());
  std::filesystem::create_symlink(folder_ / "elsewhere", mark_);
  const OpenMark led_away(study_, "M. Osei");
  EXPECT_TRUE(led_away.others().empty());
  EXPECT_FALSE(std::filesystem::exists(folder_ / "elsewhere")) << "no link is followed";
}

TEST(StudyNames, ComeFromTheQuestion) {
  core::Study study = support::timedStudyOf({"true"}, 5);
  study.bench = "Dome node 3";
  study.variable().name = "graphics link";
  study.variable().levels[0].name = "Gen 3";
  study.variable().levels[1].name = "Gen 4 / x16";
  EXPECT_EQ(session::questionName(study), "Dome node 3, graphics link, Gen 3 to Gen 4 - x16");
  study.bench = "../../etc\n";
  EXPECT_TRUE(session::questionName(study).starts_with("-..-etc␊, graphics link")) << session::questionName(study);
  study.bench = std::string(300, 'x');
  EXPECT_EQ(session::questionName(study).size(), 120U);
}

TEST(StudyNames, AreNumberedWhereTaken) {
  const support::TestFolder folder;
  core::Study study = support::timedStudyOf({"true"}, 5);
  const std::string name = folder / session::questionName(study);
  const std::string fresh = session::newStudyPath(folder.path());
  EXPECT_TRUE(session::isNamedByNumber(fresh, folder.path())) << fresh;
  EXPECT_FALSE(session::isNamedByNumber(fresh, folder / "studies"));
  EXPECT_EQ(session::pathByQuestion(study, fresh), name + ".ironlever");
  folder.write(session::questionName(study) + ".ironlever", "");
  EXPECT_EQ(session::pathByQuestion(study, fresh), name + " 2.ironlever");
  EXPECT_EQ(session::pathByQuestion(study, name + ".ironlever"), name + ".ironlever") << "its own";
  EXPECT_FALSE(session::isNamedByNumber(name + ".ironlever", folder.path()));
}

}  // namespace
