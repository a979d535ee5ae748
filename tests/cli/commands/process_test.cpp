// The programs as a person starts them: real processes, real kills.
#include <gtest/gtest.h>

#include <sys/mount.h>
#include <QCoreApplication>
#include <QElapsedTimer>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QThread>
#include <clocale>
#include <csignal>
#include <filesystem>
#include <fstream>
#include <random>
#include <set>

#include "core/study/schedule.h"
#include "session/user/second_folders.h"
#include "store/json/study_json.h"
#include "store/study/act_row.h"
#include "store/study/study_file.h"
#include "support/machine_watch.h"
#include "support/programs.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

class Programs : public support::ProgramsTest {};
using support::Outcome;

TEST_F(Programs, ResumeWhatAKillInterrupted) {
  const QString design = QStringLiteral(IRON_LEVER_SOURCE "/examples/one-core-against-two.json");
  ASSERT_EQ(cli({QStringLiteral("new"), QStringLiteral("cores"), QStringLiteral("--design"), design}).code, 0);
  EXPECT_EQ(cli({QStringLiteral("resume")}).out, "No sheet is to go on.\n");
  QProcess process;
  start(process, QStringLiteral("iron-lever-cli"),
        {QStringLiteral("run"), QString::fromStdString(folder_ / "cores"), QStringLiteral("--approve")});
  QByteArray said;
  while (!said.contains("1 of ") && process.waitForReadyRead(60000)) said += process.readAllStandardOutput();
  process.kill();  // the first pass is filed
  process.waitForFinished();
  const Outcome resumed = cli({QStringLiteral("resume")});
  EXPECT_EQ(resumed.code, 0) << resumed.err;
  EXPECT_NE(resumed.out.find("On This machine"), std::string::npos) << resumed.out;  // it ran to its end
  const auto recorded = store::StudyFile::open(folder_ / "cores")->recorded();
  const auto drivers = [](const core::Capture& capture) {
    std::vector<std::string> names;
    for (const core::Fact& fact : capture.below("graphics/"))
      if (fact.name.ends_with("/vulkan_driver")) names.push_back(fact.shown());
    return names;
  };
  for (const core::VisitCapture& one : recorded->captures)
    EXPECT_EQ(drivers(one.capture), drivers(recorded->captures.front().capture)) << one.visit_id;
  EXPECT_EQ(cli({QStringLiteral("resume")}).out, "No sheet is to go on.\n");
}

TEST_F(Programs, PutsAndTakesAwayTheUnitThatResumes) {
  EXPECT_EQ(cli({QStringLiteral("resume"), QStringLiteral("--install")}).code, 0);
  const std::filesystem::path unit =
      std::filesystem::path(folder_ / "config") / "systemd/user/iron-lever-resume.service";
  std::ifstream file(unit);
  const std::string text((std::istreambuf_iterator<char>(file)), {});
  EXPECT_NE(text.find("/iron-lever-cli\" resume"), std::string::npos) << text;
  EXPECT_TRUE(std::filesystem::exists(unit.parent_path() / "default.target.wants/iron-lever-resume.service"));
  EXPECT_EQ(cli({QStringLiteral("resume"), QStringLiteral("--remove")}).code, 0);
  EXPECT_FALSE(std::filesystem::exists(unit));
}

// Three thread counts on this machine, nothing simulated: each contrast that a ladder asks, for each size and for both.
TEST_F(Programs, InEarnestRunALadderUnattended) {
  runExample(example("threads-ladder.json"), QStringLiteral("threads"));
  const auto found = cli({QStringLiteral("findings"), QStringLiteral("threads"), QStringLiteral("--json")});
  const QJsonDocument findings = QJsonDocument::fromJson(QByteArray::fromStdString(found.out));
  EXPECT_EQ(findings[QStringLiteral("shape")].toString(), QStringLiteral("ladder"));
  EXPECT_TRUE(findings[QStringLiteral("plan_complete")].toBool());
  const QJsonArray contrasts = findings[QStringLiteral("contrasts")].toArray();
  ASSERT_EQ(contrasts.size(), 3 * 4);  // both sizes together and each; two against the baseline, two neighbours
  for (const QJsonValue& one : contrasts) {
    EXPECT_EQ(one[QStringLiteral("estimator")].toString(), QStringLiteral("rounds"));
    EXPECT_GE(one[QStringLiteral("improvement_hi_percent")].toDouble(),
              one[QStringLiteral("improvement_percent")].toDouble());
  }
  const QJsonArray ladders = findings[QStringLiteral("ladder")].toArray();
  ASSERT_EQ(ladders.size(), 3);
  EXPECT_EQ(ladders[0][QStringLiteral("case")].toString(), QStringLiteral("all"));
  EXPECT_EQ(ladders[1][QStringLiteral("levels")].toArray().size(), 3);
  EXPECT_TRUE(findings[QStringLiteral("missing")].toArray().isEmpty());
}

TEST_F(Programs, PlanAStudyAndSayWhereItsSheetStands) {
  const QString design = QStringLiteral(IRON_LEVER_SOURCE "/examples/one-core-against-two.json");
  ASSERT_EQ(cli({QStringLiteral("new"), QStringLiteral("cores"), QStringLiteral("--design"), design}).code, 0);
  const auto planned = cli({QStringLiteral("plan"), QStringLiteral("cores"), QStringLiteral("--json")});
  const QJsonDocument plan = QJsonDocument::fromJson(QByteArray::fromStdString(planned.out));
  EXPECT_EQ(plan[QStringLiteral("spreads_from")].toString(), QStringLiteral("a guess"));
  EXPECT_EQ(plan[QStringLiteral("current")][QStringLiteral("order")].toString(), QStringLiteral("there and back"));
  EXPECT_TRUE(plan[QStringLiteral("proposed")][QStringLiteral("sufficient")].toBool());
  const auto within =
      cli({QStringLiteral("plan"), QStringLiteral("cores"), QStringLiteral("--minutes"), QStringLiteral("1")});
  EXPECT_NE(within.out.find("Not even three rounds fit"), std::string::npos);
  const auto extended = cli({QStringLiteral("extend"), QStringLiteral("cores")});
  EXPECT_EQ(extended.out, "") << "nothing was extended";
  EXPECT_NE(extended.err.find("no extension is due"), std::string::npos);
  // A part swapped for good has no rounds that could fit.
  QJsonObject one_way =
      QJsonDocument::fromJson(QByteArray::fromStdString(support::contents(design.toStdString()))).object();
  QJsonObject sheet = one_way[QStringLiteral("plan")].toObject();
  sheet[QStringLiteral("order")] = QStringLiteral("blocked");
  sheet[QStringLiteral("one_way")] = true;
  one_way[QStringLiteral("plan")] = sheet;
  folder_.write("for-good.json", QJsonDocument(one_way).toJson().toStdString());
  const auto made = cli({QStringLiteral("new"), QStringLiteral("good"), QStringLiteral("--design"),
                         QString::fromStdString(folder_ / "for-good.json")});
  ASSERT_EQ(made.code, 0) << made.err;
  const auto for_good =
      cli({QStringLiteral("plan"), QStringLiteral("good"), QStringLiteral("--minutes"), QStringLiteral("1")});
  EXPECT_NE(for_good.out.find("No swap for good with the restarts before it fits"), std::string::npos) << for_good.out;
  const auto stands = cli({QStringLiteral("status"), QStringLiteral("cores"), QStringLiteral("--json")});
  const QJsonDocument status = QJsonDocument::fromJson(QByteArray::fromStdString(stands.out));
  EXPECT_EQ(status[QStringLiteral("recorded_passes")].toInt(), 0);
  EXPECT_FALSE(status[QStringLiteral("is_complete")].toBool());
  EXPECT_EQ(status[QStringLiteral("next")][QStringLiteral("level")].toString(), QStringLiteral("one core"));
}

TEST_F(Programs, KeepWhatAPersonStatesAndALevelThatCannotBeReached) {
  const QString design = QStringLiteral(IRON_LEVER_SOURCE "/examples/one-core-against-two.json");
  ASSERT_EQ(cli({QStringLiteral("new"), QStringLiteral("cores"), QStringLiteral("--design"), design}).code, 0);
  const auto say = [&](const char* command, const char* what, const char* text) {
    return cli({QLatin1String(command), QStringLiteral("cores"), QLatin1String(what), QLatin1String(text)});
  };
  EXPECT_EQ(say("state", "cooler", "tower").code, 0);
  EXPECT_NE(say("state", "mood", "good").err.find("Use one of room_temperature"), std::string::npos);
  EXPECT_EQ(say("not-reachable", "two cores", "only one is left").code, 0);
  EXPECT_NE(say("not-reachable", "nine cores", "x").err.find("no level 'nine cores'"), std::string::npos);
  const auto found = cli({QStringLiteral("findings"), QStringLiteral("cores"), QStringLiteral("--json")});
  const QJsonDocument findings = QJsonDocument::fromJson(QByteArray::fromStdString(found.out));
  EXPECT_EQ(findings[QStringLiteral("not_reachable")][0][QStringLiteral("level")].toString(),
            QStringLiteral("two cores"));
  EXPECT_EQ(cli({QStringLiteral("benches")}).out.find("No bench is known yet"), 0U);
}

TEST_F(Programs, CarryOutWhatAPersonDecidesAboutASheet) {
  const QString design = QStringLiteral(IRON_LEVER_SOURCE "/examples/one-core-against-two.json");
  ASSERT_EQ(cli({QStringLiteral("new"), QStringLiteral("cores"), QStringLiteral("--design"), design}).code, 0);
  const auto act = [&](std::initializer_list<const char*> words) {
    QStringList arguments;
    for (const char* word : words) arguments << QLatin1String(word);
    arguments.insert(1, QStringLiteral("cores"));
    return cli(arguments);
  };
  EXPECT_EQ(act({"predict", "M. Osei", "90"}).code, 0);
  EXPECT_EQ(act({"skip", "the save is broken"}).code, 0);
  EXPECT_EQ(act({"tested", "two cores", "an hour of the probe"}).code, 0);
  EXPECT_NE(act({"add-round", "why not"}).err.find("this plan has no rounds"), std::string::npos);
  EXPECT_NE(act({"extend"}).err.find("no extension is due"), std::string::npos);
  EXPECT_NE(act({"judge-by", "why not", "--yardstick", "feeling"}).err.find("'feeling' is not a yardstick"),
            std::string::npos);
  EXPECT_EQ(
      act({"judge-by", "the house rule", "--threshold", "1.5", "--threshold-ms", "0.75", "--yardstick", "fixed_band"})
          .code,
      0);
  EXPECT_NE(act({"findings", "--json"}).out.find("\"notice_threshold_ms\": 0.75"), std::string::npos);
  EXPECT_NE(act({"explain", "Scene, small dome", "surely", "x"}).err.find("'surely' is not a kind of evidence"),
            std::string::npos);
  EXPECT_NE(act({"explain", "no such case", "conjecture", "x"}).err.find("there is no case"), std::string::npos);
  EXPECT_EQ(act({"copy-to", folder_.path().c_str()}).code, 0);
  EXPECT_TRUE(std::filesystem::exists(session::copyPath(folder_ / "cores", folder_.path())));
  const auto recorded = store::StudyFile::open(folder_ / "cores")->recorded();
  std::vector<std::string> kinds;
  for (const store::Event& event : recorded->events) kinds.push_back(store::rowOf(event.act).kind);
  EXPECT_EQ(kinds, (std::vector<std::string>{"predicted", "skip", "stable", "judging_changed"}));
}

// Where a comma parts decimals, a point in what was typed or read once cut the number there.
TEST_F(Programs, ReadAndWriteNumbersAlikeInEveryLanguage) {
  if (!std::setlocale(LC_ALL, "de_DE.UTF-8")) GTEST_SKIP() << "no such language is made: ./lever test makes it";
  std::setlocale(LC_ALL, "C");
  core::Study typed = support::timedStudyOf({}, 1);
  typed.cases[0].source = core::ResultSource::ByHand;
  typed.cases[0].command.clear();
  folder_.write("log.csv", "ms\n17.4\n17.6\n16.9\n");
  std::vector<std::string> said;
  for (const char* language : {"C", "de_DE.UTF-8", "tr_TR.UTF-8"}) {
    language_ = QLatin1String(language);
    const std::string study = folder_ / (std::string("in-") + language + ".ironlever");
    ASSERT_TRUE(store::StudyFile::create(study, typed));
    const auto act = [&](std::initializer_list<const char*> words) {
      QStringList arguments;
      for (const char* word : words) arguments << QString::fromLatin1(word);
      const Outcome outcome = cli(arguments);
      EXPECT_EQ(outcome.code, 0) << outcome.err;
      return outcome.out;
    };
    std::string all = act({"predict", study.c_str(), "T. Varga", "2.5"});
    all += act({"judge-by", study.c_str(), "the dome hides less", "--threshold", "2.5"});
    all += act({"type", study.c_str(), "57.3"});
    all += act({"type", study.c_str(), "57,9"});
    all += act({"measure", "log.csv", "--target", "57.5", "--json"});
    all += act({"findings", study.c_str(), "--json"});
    said.push_back(all);
    const auto recorded = store::StudyFile::open(study)->recorded();
    EXPECT_EQ(recorded->passes.at(0).value, 57.3);
    EXPECT_EQ(recorded->passes.at(1).value, 57.9);
  }
  EXPECT_EQ(said[1], said[0]);
  EXPECT_EQ(said[2], said[0]);
}

TEST_F(Programs, MeasureALogOfAnyShape) {
  folder_.write("log.csv", "t_s;fps\n0,00;60\n0,02;50\n0,04;50\n0,06;50\n0,10;25\n");
  const Outcome said = cli({QStringLiteral("measure"), QStringLiteral("log.csv")});
  EXPECT_EQ(said.out,
            "Read as time stamps in column 't_s', 1 unit = 1000 ms.\n"
            "  run 1: 4 frames in 0.10 s, 40.0 FPS, 1 % low 25.4 FPS (thin), 0.1 % low 25.0 FPS (thin) (percentile)\n");
  const Outcome exported =
      cli({QStringLiteral("measure"), QStringLiteral("log.csv"), QStringLiteral("--column"), QStringLiteral("t_s"),
           QStringLiteral("--stamps"), QStringLiteral("--unit"), QStringLiteral("ms"), QStringLiteral("--json")});
  const QJsonDocument read = QJsonDocument::fromJson(QByteArray::fromStdString(exported.out));
  EXPECT_NEAR(read[QStringLiteral("runs")][0][QStringLiteral("average_fps")].toDouble(), 40000, 1e-6);
  EXPECT_NE(cli({QStringLiteral("measure"), QStringLiteral("log.csv"), QStringLiteral("--column"), QStringLiteral("x")})
                .err.find("Use one of 't_s', 'fps'"),
            std::string::npos);
  EXPECT_EQ(cli({QStringLiteral("measure"), QStringLiteral("absent.csv")}).code, 1);
}

TEST_F(Programs, BringInLogsListPassesLeaveOneOutAndReport) {
  core::Study study = support::studyOf({"true", "{log}"}, 2);
  study.plan.order = core::Order::Blocked;
  study.plan.is_sealed = false;
  ASSERT_TRUE(store::StudyFile::create(folder_ / "logs", study).ok());
  const auto log = [&](const char* name, double ms) {
    std::string text = "frame_ms\n";
    for (int i = 0; i < 600; ++i) text += std::to_string(ms + 0.01 * (i % 5)) + "\n";
    folder_.write(name, text);
    return QString::fromLatin1(name);
  };
  const QString level[] = {QString::fromStdString(study.variable().levels[0].name),
                           QString::fromStdString(study.variable().levels[1].name)};
  const QString import = QStringLiteral("import");
  EXPECT_EQ(cli({QStringLiteral("report"), QStringLiteral("logs"), QStringLiteral("--out"), QStringLiteral("r.html")})
                .err.find("report: the plan is not complete"),
            0U);
  Outcome said =
      cli({import, QStringLiteral("logs"), log("a.csv", 20), log("b.csv", 20.1), QStringLiteral("--level"), level[0]});
  EXPECT_EQ(said.code, 0) << said.err;
  EXPECT_NE(said.out.find("b.csv, run 1: Ring pass, 4K dome at "), std::string::npos) << said.out;
  EXPECT_EQ(
      cli({import, QStringLiteral("logs"), log("c.csv", 18), log("d.csv", 18.1), QStringLiteral("--level"), level[1]})
          .code,
      0);
  EXPECT_NE(cli({import, QStringLiteral("logs"), QStringLiteral("a.csv"), QStringLiteral("--level"), level[0]})
                .err.find("0 places left"),
            std::string::npos);
  EXPECT_NE(cli({import, QStringLiteral("logs"), QStringLiteral("a.csv")}).err.find("does not fit the pattern"),
            std::string::npos);
  const QJsonDocument passes = QJsonDocument::fromJson(
      QByteArray::fromStdString(cli({QStringLiteral("passes"), QStringLiteral("logs"), QStringLiteral("--json")}).out));
  ASSERT_EQ(passes[QStringLiteral("passes")].toArray().size(), 4);
  EXPECT_NEAR(passes[QStringLiteral("passes")][2][QStringLiteral("value")].toDouble(), 1000 / 18.02, 0.01);
  EXPECT_TRUE(
      passes[QStringLiteral("passes")][0][QStringLiteral("origin")].toString().startsWith(QLatin1String("a.csv")));
  EXPECT_EQ(cli({QStringLiteral("exclude"), QStringLiteral("logs"), QStringLiteral("1"), QStringLiteral("2")}).code, 0);
  EXPECT_NE(cli({QStringLiteral("passes"), QStringLiteral("logs")}).out.find("left out: the workload did not do"),
            std::string::npos);
  EXPECT_EQ(cli({QStringLiteral("exclude"), QStringLiteral("logs"), QStringLiteral("1"), QStringLiteral("0")}).code, 0);
  EXPECT_NE(cli({QStringLiteral("exclude"), QStringLiteral("logs"), QStringLiteral("1"), QStringLiteral("99")})
                .err.find("1: another program"),
            std::string::npos);
  ASSERT_EQ(
      cli({QStringLiteral("report"), QStringLiteral("logs"), QStringLiteral("--out"), QStringLiteral("r.html")}).code,
      0);
  std::ifstream page(folder_ / "r.html");
  const std::string html((std::istreambuf_iterator<char>(page)), {});
  EXPECT_NE(html.find("Ring pass"), std::string::npos);
  EXPECT_NE(html.find("What this is not"), std::string::npos);
}

TEST_F(Programs, TakeResultsThatAPersonTypes) {
  core::Study study = support::timedStudyOf({}, 1);
  study.cases[0].source = core::ResultSource::ByHand;
  study.cases[0].command.clear();
  ASSERT_TRUE(store::StudyFile::create(folder_ / "hand", study).ok());
  const Outcome waits = cli({QStringLiteral("run"), QStringLiteral("hand"), QStringLiteral("--approve")});
  EXPECT_EQ(waits.code, 4) << waits.err;  // waits for a person
  EXPECT_NE(waits.out.find("iron-lever-cli type hand RESULT"), std::string::npos) << waits.out;
  const auto type = [&](const char* result) {
    return cli({QStringLiteral("type"), QStringLiteral("hand"), QLatin1String(result)});
  };
  EXPECT_NE(type("fast").err.find("'fast' is not a number"), std::string::npos);
  for (int i = 0; i < 2 * study.plan.passes_per_level; ++i) EXPECT_EQ(type("57,3").code, 0);
  EXPECT_NE(type("57,3").err.find("every planned pass has its result"), std::string::npos);
}

TEST_F(Programs, RefuseToRecordWhatShowsNothing) {
  EXPECT_NE(cli({QStringLiteral("record"), QStringLiteral("--"), QStringLiteral("true")})
                .err.find("no program showed frames"),
            std::string::npos);
  EXPECT_NE(
      cli({QStringLiteral("record"), QStringLiteral("--"), QStringLiteral("false")}).err.find("ended with code 1"),
      std::string::npos);
  EXPECT_NE(cli({QStringLiteral("record"), QStringLiteral("--"), QStringLiteral("no-such-program")})
                .err.find("could not be started"),
            std::string::npos);
}

TEST_F(Programs, LeaveAPlayedPassToTheWindow) {
  core::Study study = support::timedStudyOf({"true"}, 1);
  study.cases[0].is_played = true;
  study.cases[0].route = "once around";
  ASSERT_TRUE(store::StudyFile::create(folder_ / "played", study).ok());
  const Outcome outcome = cli({QStringLiteral("run"), QStringLiteral("played"), QStringLiteral("--approve")});
  EXPECT_EQ(outcome.code, 4) << outcome.err;  // waits for a person
  EXPECT_TRUE(outcome.out.ends_with("The next pass is played by hand: open the study in the window.\n"));
}

TEST_F(Programs, MeasureInEarnestThatASecondCoreAboutDoublesTheScene) {
  const support::MachineWatch watch;
  runExample(example("one-core-against-two.json"), QStringLiteral("cores.ironlever"));
  SKIP_IF_DISTURBED(watch);
  const QJsonObject effect = finding(QStringLiteral("cores.ironlever"))[QStringLiteral("effect")].toObject();
  EXPECT_EQ(effect[QStringLiteral("estimator")].toString(), QStringLiteral("visits"));
  EXPECT_GT(effect[QStringLiteral("change_percent")].toDouble(), 50);
  EXPECT_LT(effect[QStringLiteral("change_percent")].toDouble(), 150);
  EXPECT_GT(effect[QStringLiteral("change_lo_percent")].toDouble(), 0);
}

TEST_F(Programs, MeasureInEarnestNothingBetweenTwoCoresAndTwoCores) {
  const support::MachineWatch watch;
  runExample(example("two-cores-against-two.json"), QStringLiteral("same.ironlever"));
  SKIP_IF_DISTURBED(watch);
  const QString verdict = finding(QStringLiteral("same.ironlever"))[QStringLiteral("verdict")].toString();
  EXPECT_NE(verdict, QStringLiteral("gain"));  // surely more than 10 %: not by chance, nor on a loaded machine
  EXPECT_NE(verdict, QStringLiteral("loss"));
}

TEST_F(Programs, StartNothingUnasked) {
  const std::string design = store::studyToJson(support::timedStudyOf({"touch", "ran"}));
  folder_.write("design.json", design);
  ASSERT_EQ(cli({QStringLiteral("new"), QStringLiteral("a.ironlever"), QStringLiteral("--design"),
                 QStringLiteral("design.json")})
                .code,
            0);
  const Outcome outcome = cli({QStringLiteral("run"), QStringLiteral("a.ironlever")});
  EXPECT_EQ(outcome.code, 4);
  EXPECT_NE(outcome.out.find("touch ran"), std::string::npos);
  EXPECT_NE(outcome.err.find("--approve"), std::string::npos);
  EXPECT_FALSE(std::filesystem::exists(folder_ / "ran"));
}

TEST_F(Programs, ComputeOverStandardInput) {
  const Outcome good = cli({QStringLiteral("compute"), QStringLiteral("holm")}, R"({"p": [0.01, 0.04]})");
  EXPECT_EQ(good.code, 0);
  EXPECT_NE(good.out.find("\"p_holm\":[0.02,0.04]"), std::string::npos) << good.out;
  EXPECT_EQ(cli({QStringLiteral("compute"), QStringLiteral("holm")}, "{").code, 1);
  EXPECT_EQ(cli({QStringLiteral("levitate")}).code, 2);
}

TEST_F(Programs, NameWhatIsWrongWithADesign) {
  folder_.write("design.json", "{\n\"bench\": \"Dome node 3\"\n\"variable\": 1}");
  const Outcome outcome = cli({QStringLiteral("new"), QStringLiteral("a.ironlever"), QStringLiteral("--design"),
                               QStringLiteral("design.json")});
  EXPECT_EQ(outcome.code, 1);
  EXPECT_NE(outcome.err.find("design.json, line 3"), std::string::npos) << outcome.err;
  EXPECT_FALSE(std::filesystem::exists(folder_ / "a.ironlever"));
}

// Kills the whole program at 25 random moments of one study. After each: the file opens, every pass whose line was
// printed is in it, none is in it twice, and the study goes on where it stood.
TEST_F(Programs, LoseNoFinishedPassToAKill) {
  core::Study study = support::timedStudyOf({"sh", "-c", "sleep 0.02; echo '{\"seconds\": 1.5}'"}, 60);
  study.plan.order = core::Order::ThereAndBack;
  folder_.write("design.json", store::studyToJson(study));
  ASSERT_EQ(cli({QStringLiteral("new"), QStringLiteral("k.ironlever"), QStringLiteral("--design"),
                 QStringLiteral("design.json")})
                .code,
            0);
  const QStringList run_arguments{QStringLiteral("run"), QStringLiteral("k.ironlever"), QStringLiteral("--approve")};
  std::mt19937 engine(25);
  std::size_t printed = 0;
  std::size_t recorded = 0;
  for (int kill = 0; kill < 25; ++kill) {
    QProcess process;
    start(process, QStringLiteral("iron-lever-cli"), run_arguments);
    const bool gets_to_a_pass = kill % 5 != 4 || process.waitForReadyRead(60'000);  // however slow the machine
    ASSERT_TRUE(gets_to_a_pass);
    QThread::msleep(std::uniform_int_distribution<unsigned long>(20, 400)(engine));
    ::kill(static_cast<pid_t>(process.processId()), SIGKILL);
    process.waitForFinished();
    printed += static_cast<std::size_t>(process.readAllStandardOutput().count("1.500 s\n"));
    auto file = store::StudyFile::open(folder_ / "k.ironlever");
    ASSERT_TRUE(file.ok()) << "after kill " << kill << ": " << file.error().sentence();
    const auto passes = file->recorded()->passes;
    std::set<std::size_t> distinct;
    for (const core::Pass& pass : passes) distinct.insert(pass.slot);
    EXPECT_EQ(distinct.size(), passes.size());
    EXPECT_GE(passes.size(), printed);
    EXPECT_GE(passes.size(), recorded);
    recorded = passes.size();
  }
  EXPECT_GT(recorded, 0U);
  const Outcome last = cli(run_arguments);
  EXPECT_EQ(last.code, 0) << last.err;
  EXPECT_EQ(store::StudyFile::open(folder_ / "k.ironlever")->recorded()->passes.size(), 120U);
}

// A real full disk, where the test may mount one.
TEST_F(Programs, GoOnAfterTheDiskWasFull) {
  const std::string disk = folder_ / "disk";
  std::filesystem::create_directory(disk);
  if (::mount("tmpfs", disk.c_str(), "tmpfs", 0, "size=160k") != 0)
    GTEST_SKIP() << "needs the right to mount a small disk";
  const QString name = QStringLiteral("disk/full.ironlever");
  // Each pass prints 20 kB that do not compress, so that the disk fills after a few.
  folder_.write("design.json", store::studyToJson(support::timedStudyOf(
                                   {"sh", "-c", "head -c 15000 /dev/urandom | base64; echo '{\"seconds\": 1}'"}, 10)));
  EXPECT_EQ(cli({QStringLiteral("new"), name, QStringLiteral("--design"), QStringLiteral("design.json")}).code, 0);
  const QStringList run_arguments{QStringLiteral("run"), name, QStringLiteral("--approve")};
  const Outcome full = cli(run_arguments);
  EXPECT_EQ(full.code, 1);
  EXPECT_NE(full.err.find("disk is full"), std::string::npos) << full.err;
  const std::size_t kept = store::StudyFile::open(disk + "/full.ironlever")->recorded()->passes.size();
  EXPECT_GT(kept, 0U);
  EXPECT_LT(kept, 20U);
  EXPECT_EQ(::mount("tmpfs", disk.c_str(), "tmpfs", MS_REMOUNT, "size=4m"), 0);
  EXPECT_EQ(cli(run_arguments).code, 0);
  EXPECT_EQ(store::StudyFile::open(disk + "/full.ironlever")->recorded()->passes.size(), 20U);
  ::umount(disk.c_str());
}

}  // namespace
