// A bench that is another computer, by the real programs and a real sshd: what the desk sees of it, what becomes of a
// sheet when the connection, the desk or the bench's end is cut, and what is said when it cannot be reached.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <QDateTime>
#include <QElapsedTimer>
#include <QFile>
#include <QStandardPaths>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <map>
#include <random>

#include <nlohmann/json.hpp>

#include "store/study/study_file.h"
#include "support/programs.h"
#include "support/sshd.h"

namespace {

using nlohmann::json;
using support::Outcome;
using support::Sshd;
using ::testing::HasSubstr;

class FarBench : public support::ProgramsTest {
 protected:
  void SetUp() override {
    if (!QFile::exists(Sshd::program())) GTEST_SKIP() << "no sshd is installed";
    bench_.start();
  }
  [[nodiscard]] Outcome cli(std::initializer_list<const char*> words) const {
    QStringList arguments;
    for (const char* word : words) arguments << QString::fromUtf8(word);
    return ProgramsTest::cli(arguments);
  }
  /// Each pass counts itself in a file at the bench, so that one that ran twice is known.
  [[nodiscard]] json designOf(const char* seconds = "0.02") const {
    const std::string script = "n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n; sleep " +
                               std::string(seconds) + R"(; echo "{\"score\": $((BASE + n % 7))}")";
    return {{"bench", "Dome node 3"},
            {"reach", std::string("ssh:") + Sshd::kName},
            {"ssh_config", bench_.config()},
            {"variable", "factor"},
            {"levels",
             {{{"name", "one"}, {"environment", {{"BASE", "1000"}}}},
              {{"name", "two"}, {"environment", {{"BASE", "1100"}}}}}},
            {"cases",
             {{{"workload", "Star survey"},
               {"command", {"sh", "-c", script}},
               {"result", "json_field"},
               {"field", "score"},
               {"metric", {{"name", "score"}, {"unit", "points"}, {"direction", "higher"}}}}}},
            {"plan", {{"order", "rounds"}, {"rounds", 3}, {"passes_per_visit", 2}, {"warm_ups", 1}}}};
  }
  void make(const json& design, const char* name = "s") const {
    folder_.write("design.json", design.dump());
    const Outcome made = cli({"new", name, "--design", "design.json"});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  [[nodiscard]] json passes() const { return json::parse(cli({"passes", "s", "--json"}).out).at("passes"); }
  /// Starts the sheet, and waits until a pass was filed there.
  void startSheet(QProcess& desk) const {
    start(desk, QStringLiteral("iron-lever-cli"),
          {QStringLiteral("run"), QStringLiteral("s"), QStringLiteral("--approve")});
    QByteArray said;
    while (!said.contains("1 of 18") && desk.waitForReadyRead(60'000)) said += desk.readAllStandardOutput();
    ASSERT_EQ(desk.state(), QProcess::Running) << said.toStdString() << desk.readAllStandardError().toStdString();
  }
  /// Where the study lies at the bench.
  [[nodiscard]] std::string there() const {
    for (const auto& entry : std::filesystem::directory_iterator(bench_.files() + "/studies/reached"))
      return entry.path();
    return {};
  }
  Sshd bench_{folder_ / "bench"};
};

// Planted: who asked whether the sheet still runs woke itself, and took a whole processor from every pass.
TEST_F(FarBench, LeavesTheProcessorToThePass) {
  make(designOf("3"));
  QProcess desk;
  startSheet(desk);
  const auto used = [&] {
    double nanoseconds = 0;
    for (const pid_t end : bench_.processes("bench-end")) {
      double own = 0;
      std::ifstream("/proc/" + std::to_string(end) + "/schedstat") >> own;
      nanoseconds += own;
    }
    return nanoseconds / 1e9;
  };
  const double before = used();
  EXPECT_GT(before, 0);
  QThread::msleep(2000);
  EXPECT_LT(used() - before, 0.4) << "of two seconds";
  ::kill(static_cast<pid_t>(desk.processId()), SIGINT);
  EXPECT_TRUE(desk.waitForFinished(60'000));
}

// Planted: what was said at the desk after the sheet was older than the bench's last capture, by the clocks as they
// stood, and was lost.
TEST_F(FarBench, WhoseClockIsAnHourOffIsToldByBothClocks) {
  bench_.stop();
  bench_.clock_ahead_s = 3600;
  bench_.start();
  make(designOf());
  const std::int64_t before_ms = QDateTime::currentMSecsSinceEpoch();
  const Outcome ran = cli({"run", "s", "--approve"});
  ASSERT_EQ(ran.code, 0) << ran.err << ran.out;
  EXPECT_THAT(ran.out, HasSubstr("Its clock is 3600 s ahead of this computer's"));
  EXPECT_THAT(ran.out, HasSubstr("timedatectl set-ntp true"));
  for (const json& pass : passes()) {
    const auto here_ms = pass["started_at_desk_ms"].get<std::int64_t>();
    EXPECT_GE(here_ms, before_ms - 1000);
    EXPECT_LE(here_ms, QDateTime::currentMSecsSinceEpoch() + 1000);
    EXPECT_NEAR(static_cast<double>(pass["started_ms"].get<std::int64_t>() - here_ms), 3.6e6, 1000);
  }
  ASSERT_EQ(cli({"state", "s", "cooler", "tower cooler, lid closed"}).code, 0);
  ASSERT_EQ(cli({"report", "s", "--out", "r.md"}).code, 0);
  EXPECT_THAT(support::contents(folder_ / "r.md"), HasSubstr("tower cooler, lid closed"));
  ASSERT_EQ(cli({"report", "s", "--out", "r.csv"}).code, 0);
  EXPECT_THAT(support::contents(folder_ / "r-passes.csv"), HasSubstr(",at the desk\r\n"));
}

TEST_F(FarBench, IsCapturedAsItCapturesItself) {
  const Outcome far = cli({"capture", "--reach", "ssh:dome-node-3", "--ssh-config", bench_.config().c_str(), "--json"});
  ASSERT_EQ(far.code, 0) << far.err;
  const Outcome near = cli({"capture", "--json"});
  const json there = json::parse(far.out);
  const json here = json::parse(near.out);
  EXPECT_GT(here["readings"].size(), 20U);
  EXPECT_EQ(there["readings"].size(), here["readings"].size());
  for (const auto& [name, reading] : here["readings"].items())
    if (reading["kind"] == "configuration") {
      EXPECT_EQ(there["readings"][name], reading) << name;
    }
  EXPECT_EQ(there["boot_id"], here["boot_id"]);
}

TEST_F(FarBench, RunsASheetThatIsMeasuredThereAndJudgedHere) {
  make(designOf());
  const Outcome unread = cli({"run", "s"});
  EXPECT_EQ(unread.code, 4) << unread.err;
  EXPECT_THAT(unread.out, HasSubstr("ssh -F ")) << "that it is reached is approved first, here";
  EXPECT_FALSE(std::filesystem::exists(bench_.files() + "/studies")) << "and nothing was brought there";
  const Outcome ran = cli({"run", "s", "--approve"});
  ASSERT_EQ(ran.code, 0) << ran.err << ran.out;
  EXPECT_THAT(ran.out, HasSubstr("Its clock is the same as this computer's"));
  EXPECT_THAT(ran.out, HasSubstr("18 of 18  "));
  EXPECT_THAT(ran.out, HasSubstr("On Dome node 3, moving the factor from one to two"));
  EXPECT_EQ(ran.out.find(bench_.files()), std::string::npos) << "the study is called as it is called here";
  EXPECT_EQ(passes().size(), 18U);
  EXPECT_EQ(support::contents(there() + "/n"), "18\n") << "each ran there, once";
  EXPECT_FALSE(std::filesystem::exists(folder_ / "n")) << "and none here";
  const json findings = json::parse(cli({"findings", "s", "--json"}).out);
  EXPECT_NEAR(findings["cases"][0]["effect"]["change_percent"].get<double>(), 10, 0.6);
  auto file = store::StudyFile::open(folder_ / "s");
  ASSERT_TRUE(file.ok());
  EXPECT_FALSE(file->recorded()->captures.empty()) << "the bench was captured";
  EXPECT_EQ(cli({"run", "s"}).out.find("Connected"), 0U);
  const json standing = json::parse(cli({"status", "s", "--json"}).out);
  EXPECT_EQ(standing["reached"]["sheet_runs"], false);
  EXPECT_TRUE(standing["is_complete"].get<bool>());
}

// A ladder, a crossing and a chain: each pass runs once, at its own configuration, and each contrast finds its truth.
TEST_F(FarBench, RunsASheetOfEveryShape) {
  const auto variable = [](const char* name, const char* environment, const std::map<std::string, int>& levels) {
    json made{{"name", name}, {"levels", json::array()}};
    for (const auto& [level, value] : levels)
      made["levels"].push_back({{"name", level}, {"environment", {{environment, std::to_string(value)}}}});
    return made;
  };
  const json pair = variable("factor", "BASE", {{"a", 1000}, {"b", 1100}});
  const json bonus = variable("bonus", "MORE", {{"none", 0}, {"some", 50}});
  const json ladder = variable("factor", "BASE", {{"a", 1000}, {"b", 1100}, {"c", 1150}});
  const json steps{{{"name", "plain"}, {"levels", {{"factor", "a"}, {"bonus", "none"}}}},
                   {{"name", "larger"}, {"levels", {{"factor", "b"}, {"bonus", "none"}}}},
                   {{"name", "both"}, {"levels", {{"factor", "b"}, {"bonus", "some"}}}}};
  struct Asked {
    json shape;
    int passes;
    std::vector<double> percent;  // of each contrast but an interaction, in their order
  };
  const Asked asked[] = {
      {{{"shape", "ladder"}, {"variables", json::array({ladder})}}, 9, {10, 15, 10, 4.5}},
      {{{"shape", "crossed"}, {"variables", json::array({pair, bonus})}}, 12, {10, 9.5, 5, 4.5, 9.8, 4.8}},
      {{{"shape", "chain"}, {"variables", json::array({pair, bonus})}, {"configurations", steps}}, 9, {10, 4.5, 15}}};
  for (const Asked& one : asked) {
    const std::string name = one.shape.at("shape");
    SCOPED_TRACE(name);
    json design = designOf();
    design.erase("variable");
    design.erase("levels");
    design.update(one.shape);
    design["cases"][0]["command"][2] = "n=$(cat " + name + " 2>/dev/null || echo 0); n=$((n+1)); echo $n > " + name +
                                       R"(; echo "{\"score\": $((BASE + ${MORE:-0} + n % 7))}")";
    design["plan"].update({{"passes_per_visit", 1}, {"warm_ups", 0}});
    make(design, name.c_str());
    const Outcome ran = cli({"run", name.c_str(), "--approve", "--quiet"});
    ASSERT_EQ(ran.code, 0) << ran.err << ran.out;
    std::string counted;
    for (const auto& entry : std::filesystem::directory_iterator(bench_.files() + "/studies/reached"))
      if (std::filesystem::exists(entry.path() / name)) counted += support::contents(entry.path() / name);
    EXPECT_EQ(counted, std::to_string(one.passes) + "\n") << "each ran there, once";
    const json findings = json::parse(cli({"findings", name.c_str(), "--json"}).out);
    EXPECT_EQ(findings.at("shape"), name);
    std::vector<double> found;
    for (const json& contrast : findings.at("contrasts"))
      if (contrast.at("kind") != "interaction") found.push_back(contrast.at("improvement_percent"));
    EXPECT_THAT(found, ::testing::Pointwise(::testing::DoubleNear(1), one.percent));
  }
}

// Planted: a stranger's study brings a configuration of ssh that starts a program, and somebody only asks how it
// stands.
TEST_F(FarBench, IsNotReachedUnasked) {
  folder_.write("theirs", "Host *\n  ProxyCommand touch " + (folder_ / "started") + "\n");
  json design = designOf();
  design["ssh_config"] = "theirs";
  make(design);
  for (const char* command : {"status", "run", "findings"}) {
    const Outcome asked = cli({command, "s"});
    EXPECT_EQ(asked.code, command == std::string("findings") ? 0 : 4) << command << asked.err;
    EXPECT_FALSE(std::filesystem::exists(folder_ / "started")) << command;
  }
}

TEST_F(FarBench, IsApprovedByWhatItReallyStartsThere) {
  json design = designOf();
  design["cases"][0]["command"] = {"./survey.sh"};
  make(design);
  Outcome ran = cli({"run", "s", "--approve"});
  EXPECT_EQ(ran.code, 1);
  EXPECT_THAT(ran.err, HasSubstr("'./survey.sh' is not on this machine"));
  const std::string script = there() + "/survey.sh";
  std::ofstream(script) << "#!/bin/sh\necho '{\"score\": 5}'\n";
  std::filesystem::permissions(script, std::filesystem::perms::owner_all);
  ran = cli({"run", "s"});
  EXPECT_EQ(ran.code, 4) << ran.err;
  EXPECT_THAT(ran.out, HasSubstr("survey.sh")) << "the acts at the bench are read at the desk";
  const auto at = ran.err.find("--approve=") + 10;
  const std::string digest = "--approve=" + ran.err.substr(at, 16);
  std::ofstream(script, std::ios::app) << "# another one now\n";
  EXPECT_EQ(cli({"run", "s", digest.c_str()}).code, 4) << "that is not what was read";
  EXPECT_EQ(passes().size(), 0U);
  ran = cli({"run", "s"});
  const std::string now = "--approve=" + ran.err.substr(ran.err.find("--approve=") + 10, 16);
  EXPECT_EQ(cli({"run", "s", now.c_str(), "--quiet"}).code, 0);
  EXPECT_EQ(passes().size(), 18U);
}

TEST_F(FarBench, WaitsForAPersonAndGoesOnWithWhatTheyTyped) {
  json design = designOf();
  design["cases"][0]["command"] = json::array();
  design["cases"][0]["result"] = "by_hand";
  design["cases"][0].erase("field");
  design["plan"] = {{"order", "there_and_back"}, {"passes_per_level", 2}, {"warm_ups", 0}};
  make(design);
  Outcome ran = cli({"run", "s", "--approve"});
  EXPECT_EQ(ran.code, 4) << ran.err;
  for (const char* result : {"100", "110", "111", "101"}) {
    EXPECT_EQ(cli({"type", "s", result}).code, 0);
    ran = cli({"run", "s"});
  }
  EXPECT_EQ(ran.code, 0) << ran.err << ran.out;
  EXPECT_EQ(passes().size(), 4U);
}

TEST_F(FarBench, TellsItsProgressToScripts) {
  make(designOf());
  const Outcome ran = cli({"run", "s", "--approve", "--progress=json"});
  ASSERT_EQ(ran.code, 0) << ran.err;
  std::istringstream lines(ran.out);
  int filed = 0;
  json last;
  for (std::string line; std::getline(lines, line);) {
    const json event = json::parse(line, nullptr, false);
    if (!event.is_object()) continue;
    filed += event["event"] == "pass" && event["filed"] == true;
    last = event;
  }
  EXPECT_EQ(filed, 18);
  EXPECT_EQ(last["event"], "ended");
  EXPECT_EQ(last["code"], 0);
}

TEST_F(FarBench, IsNamedWhenItIsAwayOrIsNotWhatItWas) {
  make(designOf());
  ASSERT_EQ(cli({"run", "s", "--approve", "--quiet"}).code, 0);
  const auto said = [&] {
    QElapsedTimer clock;
    clock.start();
    const Outcome ran = cli({"status", "s"});
    EXPECT_EQ(ran.code, 1) << ran.out;
    EXPECT_LT(clock.elapsed(), 60'000);
    EXPECT_EQ(ran.err.find(Sshd::kName), 0U) << ran.err;
    return ran.err;
  };
  bench_.stop();
  EXPECT_THAT(said(), HasSubstr("it is away"));
  EXPECT_EQ(cli({"findings", "s"}).code, 0) << "what is here can be read all the same";
  bench_.makeKey("host_key");
  bench_.start();
  EXPECT_THAT(said(), HasSubstr("its host key is another one"));
  bench_.learnKey();
  bench_.stop();
  bench_.start("/nowhere");
  EXPECT_THAT(said(), HasSubstr("iron-lever-cli is not on the path there"));
  bench_.stop();
  // A login that greets, a program that never answers with a message, and one of another version.
  const std::string odd = folder_ / "odd";
  std::filesystem::create_directory(odd);
  const auto pretend = [&](const std::string& script) {
    folder_.write("odd/iron-lever-cli", "#!/bin/sh\n" + script + "\n");
    std::filesystem::permissions(odd + "/iron-lever-cli", std::filesystem::perms::owner_all);
    bench_.start(odd);
    const std::string what = said();
    bench_.stop();
    return what;
  };
  EXPECT_THAT(pretend("echo 'Welcome to the observatory, please be quiet'"),
              HasSubstr("what answered is not this program: it wrote \"Welcome to the observatory"));
  EXPECT_THAT(pretend("exit 0"), HasSubstr("it is away"));
  EXPECT_THAT(pretend(R"(printf '\000\000\000\045{"id":1,"protocol":9,"version":"9.1"}')"),
              HasSubstr("the program there is version 9.1, which speaks otherwise"));
  bench_.makeKey("user_key");
  std::filesystem::rename(folder_ / "bench/user_key.pub", folder_ / "bench/other.pub");
  std::ofstream(folder_ / "bench/user_key.pub") << "\n";
  bench_.start();
  EXPECT_THAT(said(), HasSubstr("ssh does not get in without a password"));
}

// What is killed: the connection, the bench's end of it, the desk, or all of them at once, at random moments. Nothing
// is lost, and nothing is counted or run twice, but for a pass whose runner itself was killed.
TEST_F(FarBench, GoesOnWhateverIsCut) {
  const char* asked = std::getenv("IRON_LEVER_CUTS");
  const int cuts = asked ? std::atoi(asked) : 8;
  json design = designOf("0.15");
  design["plan"]["rounds"] = std::max(3, cuts / 3);
  make(design);
  const std::size_t planned = static_cast<std::size_t>(design["plan"]["rounds"].get<int>()) * 2 * 3;
  std::mt19937 chance(20261201);
  int done = 0;
  QProcess desk;
  const auto begin = [&] {
    start(desk, QStringLiteral("iron-lever-cli"),
          {QStringLiteral("run"), QStringLiteral("s"), QStringLiteral("--approve"), QStringLiteral("--quiet")});
  };
  begin();
  while (done < cuts) {
    desk.waitForFinished(static_cast<int>(100 + chance() % 900));
    if (desk.state() == QProcess::NotRunning) {
      if (desk.exitCode() == 0) break;
      begin();
      continue;
    }
    const unsigned what = chance() % 4;
    if (what == 0 || what == 3)
      for (const pid_t one : bench_.processes("BatchMode=yes")) ::kill(one, SIGKILL);
    if (what == 1 || what == 3)
      for (const pid_t one : bench_.processes("bench-end")) ::kill(one, SIGKILL);
    if (what == 2 || what == 3) desk.kill();
    ++done;
  }
  for (int i = 0; i < 5; ++i) {
    desk.waitForFinished(240'000);
    if (desk.state() == QProcess::NotRunning && desk.exitStatus() == QProcess::NormalExit && desk.exitCode() == 0)
      break;
    if (desk.state() == QProcess::NotRunning) begin();
  }
  EXPECT_EQ(desk.exitCode(), 0) << desk.readAllStandardError().toStdString();
  EXPECT_EQ(passes().size(), planned);
  EXPECT_EQ(support::contents(there() + "/n"), std::to_string(planned) + "\n") << "each ran once";
  std::set<std::pair<int, int>> seen;
  auto file = store::StudyFile::open(folder_ / "s");
  ASSERT_TRUE(file.ok());
  const auto recorded = file->recorded();
  ASSERT_TRUE(recorded.ok());
  for (const core::Pass& pass : recorded->passes)
    EXPECT_TRUE(seen.insert({static_cast<int>(pass.slot), pass.attempt}).second) << pass.slot;
}

TEST_F(FarBench, GoesOnAfterItsRunnerWasKilled) {
  make(designOf("0.2"));
  QProcess desk;
  startSheet(desk);
  for (const pid_t one : bench_.processes("bench-run")) ::kill(one, SIGKILL);
  ASSERT_TRUE(desk.waitForFinished(240'000));
  EXPECT_EQ(desk.exitCode(), 0) << desk.readAllStandardError().toStdString();
  std::set<std::string> ran;
  for (const json& pass : passes())
    ran.insert(pass["level"].get<std::string>() + pass["round"].dump() + pass["number"].dump() +
               pass["warm_up"].dump());
  EXPECT_EQ(ran.size(), 18U);
}

TEST_F(FarBench, IsStoppedByAnInterruptAndFollowedAgain) {
  make(designOf("0.3"));
  QProcess desk;
  startSheet(desk);
  ::kill(static_cast<pid_t>(desk.processId()), SIGINT);
  ASSERT_TRUE(desk.waitForFinished(60'000));
  EXPECT_EQ(desk.exitCode(), 3) << desk.readAllStandardError().toStdString();
  EXPECT_TRUE(bench_.processes("bench-run").empty()) << "nothing runs there any more";
  const std::size_t filed = passes().size();
  EXPECT_GT(filed, 0U) << "what was filed is here";
  EXPECT_EQ(cli({"run", "s", "--quiet"}).code, 0);
  EXPECT_EQ(passes().size(), 18U);
}

// 200 ms there and back, and one piece in a hundred comes only when it is sent again.
TEST_F(FarBench, RunsAWholeStudyOverASlowLinkThatLoses) {
  bench_.addToConfig("ProxyCommand python3 " IRON_LEVER_SOURCE "/tests/data/slow_link.py %h %p 0.1 1");
  make(designOf());
  const Outcome ran = cli({"run", "s", "--approve"});
  ASSERT_EQ(ran.code, 0) << ran.err << ran.out;
  EXPECT_THAT(ran.out, HasSubstr("Its clock is the same as this computer's, within 1"));
  EXPECT_EQ(passes().size(), 18U);
  EXPECT_EQ(support::contents(there() + "/n"), "18\n");
}

// What a scheduler starts: a queue of sheets, told apart by how each ended.
TEST_F(FarBench, IsRunByABatchScheduler) {
  const QString scheduler = QStandardPaths::findExecutable(QStringLiteral("tsp"));
  if (scheduler.isEmpty()) GTEST_SKIP() << "the batch scheduler is not installed";
  qputenv("TS_SOCKET", QByteArray::fromStdString(folder_ / "tsp"));
  make(designOf());
  json by_hand = designOf();
  by_hand["cases"][0]["command"] = json::array();
  by_hand["cases"][0]["result"] = "by_hand";
  by_hand["cases"][0].erase("field");
  make(by_hand, "waits");
  const auto queue = [&](QStringList words) {
    QProcess one;
    one.setWorkingDirectory(QString::fromStdString(folder_.path()));
    one.start(scheduler, words);
    one.waitForFinished(120'000);
    return one.readAllStandardOutput().trimmed();
  };
  const QString program = QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever-cli");
  std::map<std::string, QByteArray> jobs;
  for (const char* study : {"s", "waits"})
    jobs[study] = queue({program, QStringLiteral("run"), QString::fromLatin1(study), QStringLiteral("--approve"),
                         QStringLiteral("--progress=json")});
  for (const auto& [study, expected] : {std::pair{"s", 0}, std::pair{"waits", 4}}) {
    QProcess wait;
    wait.start(scheduler, {QStringLiteral("-w"), QString::fromLatin1(jobs[study])});
    ASSERT_TRUE(wait.waitForFinished(120'000));
    EXPECT_EQ(wait.exitCode(), expected)
        << study << queue({QStringLiteral("-c"), QString::fromLatin1(jobs[study])}).toStdString();
  }
  (void)queue({QStringLiteral("-K")});
  qunsetenv("TS_SOCKET");
  EXPECT_EQ(passes().size(), 18U);
}

// Planted: what both added by themselves is nobody's to throw away.
TEST_F(FarBench, RefusesAStudyThatWentOnAtBothEnds) {
  json design = designOf();
  design["cases"][0]["command"] = json::array();
  design["cases"][0]["result"] = "by_hand";
  design["cases"][0].erase("field");
  make(design);
  EXPECT_EQ(cli({"run", "s", "--approve"}).code, 4);
  std::filesystem::copy_file(folder_ / "s", folder_ / "other");
  ASSERT_EQ(cli({"type", "other", "100"}).code, 0);
  std::filesystem::copy_file(folder_ / "other", there() + "/study.ironlever",
                             std::filesystem::copy_options::overwrite_existing);
  ASSERT_EQ(cli({"type", "s", "200"}).code, 0);
  const Outcome ran = cli({"run", "s"});
  EXPECT_EQ(ran.code, 1) << ran.out;
  EXPECT_THAT(ran.err, HasSubstr("went on here and at its bench"));
  EXPECT_EQ(passes().size(), 1U) << "nothing was taken";
}

TEST_F(FarBench, HasAFullDiskThatIsNamed) {
  make(designOf());
  std::filesystem::create_directories(bench_.files());
  std::filesystem::create_symlink("/dev/full", bench_.files() + "/studies");
  const Outcome ran = cli({"run", "s", "--approve"});
  EXPECT_EQ(ran.code, 1);
  EXPECT_THAT(ran.err, HasSubstr(Sshd::kName));
  EXPECT_EQ(passes().size(), 0U);
}

}  // namespace
