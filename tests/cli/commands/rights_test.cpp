// Commands that do without some rights of the person's, by the real programs: what they then cannot do, that it is
// approved anew, and what trials propose.
#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>

#include <nlohmann/json.hpp>

#include "store/study/study_file.h"
#include "support/programs.h"
#include "support/studies.h"

namespace {

using nlohmann::json;
using support::Outcome;

class Rights : public support::ProgramsTest {
 protected:
  void SetUp() override {
    QProcess probe;
    probe.start(QStringLiteral("bwrap"), {QStringLiteral("--dev-bind"), QStringLiteral("/"), QStringLiteral("/"),
                                          QStringLiteral("--unshare-net"), QStringLiteral("true")});
    if (!probe.waitForFinished() || probe.exitCode() != 0) GTEST_SKIP() << "this system gives no namespaces";
    std::string pattern = "/tmp/iron-lever-rights-XXXXXX";
    shared_ = ::mkdtemp(pattern.data());
  }
  void TearDown() override {
    std::error_code code;
    if (!shared_.empty()) std::filesystem::remove_all(shared_, code);
  }
  /// A study whose one pass is a script that prints {"seconds": …}.
  static core::Study passing(const std::string& script, const core::Without& without = {}) {
    core::Study study = support::timedStudyOf({"sh", "-c", script}, 2);
    study.cases[0].without = without;
    return study;
  }
  void make(const core::Study& study, const char* name) const {
    ASSERT_TRUE(store::StudyFile::create(folder_ / name, study).ok());
  }
  Outcome sheet(const QString& name) const {
    return cli({QStringLiteral("run"), name, QStringLiteral("--approve"), QStringLiteral("--quiet")});
  }
  [[nodiscard]] std::vector<core::Pass> passes(const char* name) const {
    return store::StudyFile::open(folder_ / name)->recorded()->passes;
  }
  std::string shared_;
};

TEST_F(Rights, ThatACommandDoesWithoutAreNotThere) {
  // 1 where it may gain privileges, + 10 for a network with others, + 100 for what others left in /tmp.
  const std::string script =
      "n=0; grep -q 'NoNewPrivs:.*0' /proc/self/status && n=$((n+1)); "
      "[ $(readlink /proc/self/ns/net) = $(cat outside) ] && n=$((n+10)); "
      "[ -e " +
      shared_ +
      " ] && n=$((n+100)); echo own > /tmp/$$.own || exit 9; "
      "echo \"{\\\"seconds\\\": $((n+1000))}\"";
  folder_.write("outside", std::filesystem::read_symlink("/proc/self/ns/net").string());
  const auto seconds = [&](const core::Without& without, const char* name) {
    make(passing(script, without), name);
    const Outcome ran = sheet(QString::fromLatin1(name));
    EXPECT_EQ(ran.code, 0) << ran.out << ran.err;
    for (const core::Pass& pass : passes(name)) EXPECT_TRUE(pass.value) << pass.failure;
    return passes(name).at(0).value.value_or(-1);
  };
  EXPECT_EQ(seconds({}, "all"), 1111);
  EXPECT_EQ(seconds({true, false, false}, "privileges"), 1110);
  EXPECT_EQ(seconds({false, true, false}, "network"), 1100);
  EXPECT_EQ(seconds({false, false, true}, "temporary"), 1010);
  EXPECT_EQ(seconds({true, true, true}, "fewest"), 1000);
  for (const auto& left : std::filesystem::directory_iterator("/tmp"))
    if (left.path().extension() == ".own") std::filesystem::remove(left.path());  // of the first three
}

TEST_F(Rights, BelongToWhatIsApprovedAndToWhatSetsALevel) {
  core::Study study = passing("echo '{\"seconds\": 1}'");
  study.cases[0].without.network = true;
  study.variable().levels[1].set_command = {"sh", "-c", "touch " + shared_ + "/set"};
  study.variable().levels[1].without.shared_temporary_folder = true;
  make(study, "s");
  const Outcome asked = cli({QStringLiteral("run"), QStringLiteral("s")});
  EXPECT_EQ(asked.code, 4);
  EXPECT_NE(asked.out.find("(without new privileges, network)"), std::string::npos) << asked.out;
  EXPECT_NE(asked.out.find("(without new privileges, the shared temporary folder)"), std::string::npos) << asked.out;
  const Outcome ran = sheet(QStringLiteral("s"));
  EXPECT_NE(ran.code, 0) << "the level cannot be set where the folder is not there";
  EXPECT_FALSE(std::filesystem::exists(shared_ + "/set"));
  study.variable().levels[1].without = {};
  make(study, "t");
  EXPECT_EQ(cli({QStringLiteral("run"), QStringLiteral("t")}).code, 4) << "more rights were not approved";
  EXPECT_EQ(sheet(QStringLiteral("t")).code, 0);
  EXPECT_TRUE(std::filesystem::exists(shared_ + "/set"));
}

TEST_F(Rights, AreProposedFromTrialsOfWhatWasApproved) {
  std::ofstream(shared_ + "/result.json") << R"({"seconds": 2.5})";
  make(passing("cat " + shared_ + "/result.json"), "s");
  EXPECT_EQ(cli({QStringLiteral("rights"), QStringLiteral("s")}).code, 4) << "nobody approved it";
  EXPECT_EQ(sheet(QStringLiteral("s")).code, 0);
  const std::size_t before = passes("s").size();
  const json said = json::parse(cli({QStringLiteral("rights"), QStringLiteral("s"), QStringLiteral("--json")}).out);
  const json& one = said["cases"][0];
  EXPECT_EQ(one["proposed"],
            json::parse(R"({"new_privileges": true, "network": true, "shared_temporary_folder": false})"));
  EXPECT_EQ(one["tried"][0]["value"], 2.5);
  EXPECT_TRUE(one["tried"][1]["value"].is_null()) << "the file lies in the folder that it did without";
  const Outcome told = cli({QStringLiteral("rights"), QStringLiteral("s")});
  EXPECT_NE(told.out.find("2.500 s with all rights, 2.500 s without new privileges, network"), std::string::npos)
      << told.out;
  EXPECT_EQ(passes("s").size(), before) << "nothing of it is filed";
  // What a case does without already it is never given back, not even for a trial.
  core::Study narrow = passing("test -e " + shared_ + " && exit 9; echo '{\"seconds\": 1}'");
  narrow.cases[0].without.shared_temporary_folder = true;
  make(narrow, "narrow");
  sheet(QStringLiteral("narrow"));
  const json kept =
      json::parse(cli({QStringLiteral("rights"), QStringLiteral("narrow"), QStringLiteral("--json")}).out);
  for (const json& one_tried : kept["cases"][0]["tried"])
    EXPECT_TRUE(one_tried["without"]["shared_temporary_folder"]) << one_tried.dump();
  EXPECT_EQ(kept["cases"][0]["tried"][0]["value"], 1);
  make(passing("exit 3"), "failing");
  sheet(QStringLiteral("failing"));
  EXPECT_NE(cli({QStringLiteral("rights"), QStringLiteral("failing")}).out.find("no result with all rights"),
            std::string::npos);
}

TEST_F(Rights, EndWithTheirPassAndLeaveNothingBehind) {
  core::Study study = passing("trap '' TERM; (sleep 2; touch late) & sleep 20", {true, true, true});
  study.plan.time_limit_s = 0.3;
  make(study, "s");
  sheet(QStringLiteral("s"));
  ASSERT_FALSE(passes("s").empty());
  for (const core::Pass& pass : passes("s"))
    EXPECT_NE(pass.failure.find("stopped at the time limit"), std::string::npos) << pass.failure;
  ::sleep(3);
  EXPECT_FALSE(std::filesystem::exists(folder_ / "late"));
}

}  // namespace
