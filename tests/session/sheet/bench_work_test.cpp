#include <gtest/gtest.h>
#include <signal.h>

#include <QCoreApplication>
#include <QDateTime>
#include <QProcess>
#include <filesystem>
#include <fstream>
#include <functional>
#include <future>
#include <sstream>

#include "bench/local_bench.h"
#include "core/judgement/judgement.h"
#include "session/sheet/session.h"
#include "support/run_session.h"
#include "support/studies.h"
#include "support/test_folder.h"

namespace {

using core::CaptureMoment;
using core::ErrorKind;
using session::Session;
using session::State;

/// A study whose bench is a folder with a few files of a kernel's.
class BenchWork : public testing::Test {
 protected:
  BenchWork() {
    for (int policy = 0; policy < 2; ++policy) setting(governor(policy), "powersave\n");
    setting("/sys/module/pcie_aspm/parameters/policy", "[default] performance powersave\n");
    setting("/proc/sys/kernel/random/boot_id", "boot-1\n");
  }
  static std::string governor(int policy) {
    return "/sys/devices/system/cpu/cpufreq/policy" + std::to_string(policy) + "/scaling_governor";
  }
  void setting(const std::string& path, const std::string& text) const {
    const std::filesystem::path full = machine_ + path;
    std::filesystem::create_directories(full.parent_path());
    std::ofstream(full) << text;
  }
  [[nodiscard]] std::string reads(const std::string& path) const {
    std::ostringstream text;
    text << std::ifstream(machine_ + path).rdbuf();
    return text.str();
  }
  /// Each pass prints what it finds in the first governor's file, so that a test sees what it ran under.
  [[nodiscard]] core::Study study() const {
    core::Study study =
        support::timedStudyOf({"sh", "-c", "cat machine" + governor(1) + " >>seen; echo '{\"seconds\": 1}'"}, 1);
    study.machine = "machine";
    study.variable().kind = "governor";
    study.variable().levels[1].writes = {{"/sys/devices/system/cpu/cpufreq/policy*/scaling_governor", "performance"}};
    return study;
  }
  std::unique_ptr<Session> open() {
    auto file = store::StudyFile::open(path_);
    EXPECT_TRUE(file.ok()) << file.error().sentence();
    return std::make_unique<Session>(*std::move(file), bench_, files_, "T. Varga");
  }
  std::unique_ptr<Session> sessionFor(const core::Study& study) {
    EXPECT_TRUE(store::StudyFile::create(path_, study).ok());
    auto session = open();
    EXPECT_TRUE(session->approve().ok());
    return session;
  }
  static void runToEnd(Session& session) {
    const auto started = session.start();
    ASSERT_TRUE(started.ok()) << started.error().sentence();
    ASSERT_TRUE(support::waitUntil([&] { return !session.isRunning(); }));
  }

  support::TestFolder folder_;
  std::string machine_ = folder_ / "machine";
  std::string path_ = folder_ / "study.ironlever";
  session::UserFiles files_ = session::UserFiles::in(folder_ / "user");
  bench::LocalBench bench_;
};

TEST_F(BenchWork, WritesSettingsForTheirLevelAndPutsThemBack) {
  const auto session = sessionFor(study());
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  std::ostringstream seen;
  seen << std::ifstream(folder_ / "seen").rdbuf();
  EXPECT_EQ(seen.str(), "powersave\nperformance");  // no newline after what the program wrote
  for (const int policy : {0, 1}) EXPECT_EQ(reads(governor(policy)), "powersave");
  const auto proof = core::proveBench(session->study(), store::recordOf(session->recorded()));
  EXPECT_EQ(proof.verdict, core::ProofVerdict::MovedAsDeclared) << proof.reason;
}

TEST_F(BenchWork, WritesNothingThatNobodyApproved) {
  ASSERT_TRUE(store::StudyFile::create(path_, study()).ok());
  const auto session = open();
  EXPECT_EQ(session->machine().unapprovedActs().size(), 2U);  // the pass and the setting
  EXPECT_EQ(session->start().error().kind, ErrorKind::NotApproved);
  EXPECT_EQ(reads(governor(0)), "powersave\n");
}

TEST_F(BenchWork, TakesTheChoiceInBracketsForWhatStoodThere) {
  core::Study one = study();
  one.variable().levels[1].writes = {{"/sys/module/pcie_aspm/parameters/policy", "performance"}};
  const auto session = sessionFor(one);
  runToEnd(*session);
  EXPECT_EQ(reads("/sys/module/pcie_aspm/parameters/policy"), "default");
}

TEST_F(BenchWork, HoldsTheSheetWhereASettingIsNotToBeHad) {
  core::Study one = study();
  one.variable().levels[1].writes.push_back({"/sys/devices/system/cpu/smt/control", "off"});
  const auto session = sessionFor(one);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Held);
  EXPECT_EQ(session->problem()->kind, ErrorKind::Missing);
  EXPECT_EQ(session->recorded().passes.size(), 1U);      // the baseline's pass is safe
  EXPECT_EQ(reads(governor(0)), "powersave");            // and what was written before is put back
  setting("/sys/devices/system/cpu/smt/control", "on");  // put right, the sheet goes on where it stood
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
}

TEST_F(BenchWork, LeavesAloneWhatAPersonHasSetByHand) {
  for (const int policy : {0, 1}) setting(governor(policy), "performance\n");
  const auto session = sessionFor(study());
  runToEnd(*session);
  EXPECT_EQ(reads(governor(0)), "performance\n");  // not written, so nothing to put back
}

TEST_F(BenchWork, PutsSettingsBackAtTheNextStartAfterAKill) {
  core::Study slow = study();
  slow.cases[0].command = {"sh", "-c",
                           "grep -q performance machine" + governor(0) + " && sleep 60; echo '{\"seconds\": 1}'"};
  (void)sessionFor(slow);
  // The real program, killed in the middle of a pass for which it has changed settings.
  QProcess program;
  QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
  environment.insert(QStringLiteral("XDG_STATE_HOME"), QString::fromStdString(folder_ / "state"));
  environment.insert(QStringLiteral("XDG_DATA_HOME"), QString::fromStdString(folder_ / "data"));
  program.setProcessEnvironment(environment);
  program.start(QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever-cli"),
                {QStringLiteral("run"), QString::fromStdString(path_), QStringLiteral("--approve")});
  ASSERT_TRUE(support::waitUntil([&] { return reads(governor(1)) == "performance"; }));
  ::kill(static_cast<pid_t>(program.processId()), SIGKILL);
  program.waitForFinished();
  EXPECT_EQ(reads(governor(0)), "performance");

  session::UserFiles theirs = files_;
  theirs.settings = folder_ / "state" + "/iron-lever/settings-to-put-back.jsonl";
  // A child that was just being started holds its parent's lock until it has become another program.
  std::vector<std::string> sentences;
  ASSERT_TRUE(support::waitUntil([&] {
    if (sentences.empty()) sentences = session::putBackLeftOvers(theirs, "M. Osei");
    return !sentences.empty();
  }));
  EXPECT_EQ(sentences.size(), 2U);
  for (const int policy : {0, 1}) EXPECT_EQ(reads(governor(policy)), "powersave");
  EXPECT_TRUE(session::putBackLeftOvers(theirs, "M. Osei").empty());
  const auto again = open();
  EXPECT_TRUE(
      std::holds_alternative<core::SettingPutBack>(again->recorded().events.back().act));  // and the logbook knows
}

TEST_F(BenchWork, LeavesASettingOfAnotherBootAlone) {
  session::SettingJournal journal(files_.settings);
  bench::LocalBench machine(machine_);
  ASSERT_TRUE(journal.apply({{governor(0), "performance"}}, machine, machine_, path_).ok());
  setting("/proc/sys/kernel/random/boot_id", "boot-2\n");
  EXPECT_TRUE(journal.restoreLeftOvers().empty());
  EXPECT_EQ(reads(governor(0)), "performance");  // whatever stands there now, it is not ours
  EXPECT_TRUE(journal.entries().empty());
}

// Two sheets on two benches note and put back at once: neither loses what the other has noted.
TEST_F(BenchWork, NotesWhatTwoSheetsSetAtOnce) {
  constexpr int kSettings = 20;
  for (int policy = 0; policy < 2 * kSettings; ++policy) setting(governor(policy), "powersave\n");
  std::vector<std::string> studies{folder_ / "a.ironlever", folder_ / "b.ironlever"};
  const auto both = [&](const std::function<bool(session::SettingJournal&, bench::LocalBench&, int)>& act) {
    std::vector<std::future<bool>> sheets;
    for (int sheet = 0; sheet < 2; ++sheet)
      sheets.push_back(std::async(std::launch::async, [&, sheet] {
        session::SettingJournal journal(files_.settings);
        bench::LocalBench bench(machine_);
        return act(journal, bench, sheet);
      }));
    return sheets[0].get() && sheets[1].get();
  };
  EXPECT_TRUE(both([&](session::SettingJournal& journal, bench::LocalBench& bench, int sheet) {
    bool is_set = true;
    for (int i = 0; i < kSettings; ++i)
      is_set = is_set && journal
                             .apply({{governor(sheet * kSettings + i), "performance"}}, bench, machine_,
                                    studies[static_cast<std::size_t>(sheet)])
                             .ok();
    return is_set;
  }));
  EXPECT_EQ(session::SettingJournal(files_.settings).entries().size(), 2U * kSettings);
  EXPECT_TRUE(both([&](session::SettingJournal& journal, bench::LocalBench& bench, int sheet) {
    return journal.restore(bench, machine_, studies[static_cast<std::size_t>(sheet)]).ok();
  }));
  EXPECT_TRUE(session::SettingJournal(files_.settings).entries().empty());
  for (int policy = 0; policy < 2 * kSettings; ++policy) EXPECT_EQ(reads(governor(policy)), "powersave") << policy;
}

TEST_F(BenchWork, MeasuresEachVisitBeforeAndAfterItsPasses) {
  core::Study one = study();
  one.measure_command = {"sh", "-c", "echo '{\"read_GBps\": {\"values\": [60.5, 61]}, \"mib\": 256}'"};
  const auto session = sessionFor(one);
  runToEnd(*session);
  const auto& measured = session->recorded().measurements;
  ASSERT_EQ(measured.size(), 4U);
  EXPECT_EQ(measured[0].moment, CaptureMoment::Start);
  EXPECT_EQ(measured[1].moment, CaptureMoment::End);
  EXPECT_EQ(measured[1].visit_id, measured[0].visit_id);
  EXPECT_EQ(measured[3].find("read_GBps")->values, (std::vector{60.5, 61.0}));
  EXPECT_EQ(open()->recorded().measurements.size(), 4U);  // and it is all in the file
}

TEST_F(BenchWork, GoesOnWhereALevelCannotBeMeasuredAndSaysWhy) {
  const auto failureOf = [&](const std::string& script) {
    std::filesystem::remove(path_);
    core::Study one = study();
    one.measure_command = {"sh", "-c", script};
    const auto session = sessionFor(one);
    runToEnd(*session);
    EXPECT_EQ(session->state(), State::Finished);
    return session->recorded().measurements.at(0).failure;
  };
  EXPECT_NE(failureOf("echo no device >&2; exit 1").find("ended with code 1: no device"), std::string::npos);
  EXPECT_NE(failureOf("echo hello").find("no JSON object"), std::string::npos);
  EXPECT_NE(failureOf("echo '{\"read_GBps\": {\"values\": [0]}}'").find("not a positive number"), std::string::npos);
  EXPECT_NE(failureOf("echo '{\"mib\": 256}'").find("holds no measurement"), std::string::npos);
  EXPECT_NE(failureOf("echo '{\"is_software\": true}'").find("no link is crossed"), std::string::npos);
}

TEST_F(BenchWork, TakesNoEndOfAVisitWhoseSettingsWerePutBack) {
  core::Study one = study();
  std::swap(one.variable().levels[0].writes, one.variable().levels[1].writes);
  {
    const auto session = sessionFor(one);
    QObject::connect(session.get(), &Session::passFiled, session.get(),
                     [&session] { session->stop(session::Stop::AfterPass); });
    runToEnd(*session);  // stopped between the last pass of the visit and its end
    EXPECT_EQ(session->recorded().passes.size(), 1U);
    EXPECT_EQ(reads(governor(0)), "powersave");
  }
  const auto session = open();
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  const auto proof = core::proveBench(session->study(), store::recordOf(session->recorded()));
  for (const core::VisitProof& visit : proof.visits) EXPECT_TRUE(visit.not_held.empty()) << visit.planned;
  EXPECT_EQ(proof.verdict, core::ProofVerdict::MovedAsDeclared) << proof.reason;
}

TEST_F(BenchWork, BeginsNoPassBeforeTheMachineHasRestarted) {
  core::Study one = study();
  one.variable().kind = "memory_speed";
  one.variable().levels[1].writes.clear();
  one.variable().levels[1].set_command = {"true"};  // asks for a restart, and is back at once
  const auto session = sessionFor(one);
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Held);
  EXPECT_NE(session->problem()->sentence().find("has not restarted yet"), std::string::npos);
  EXPECT_EQ(session->recorded().visits.size(), 1U);
  setting("/proc/sys/kernel/random/boot_id", "boot-2\n");
  runToEnd(*session);
  EXPECT_EQ(session->state(), State::Finished);
  EXPECT_EQ(session->recorded().visits.size(), 2U);
}

TEST_F(BenchWork, GivesUpAfterRestartsThatBringNoVisit) {
  core::Study one = study();
  one.variable().kind = "memory_speed";
  one.variable().levels[1].writes.clear();
  one.variable().levels[1].set_command = {"false"};
  const auto session = sessionFor(one);
  const auto resume = [&](int boot) {
    setting("/proc/sys/kernel/random/boot_id", "boot-" + std::to_string(boot) + "\n");
    // As if the restart had come before the command could say how it went.
    ASSERT_TRUE(store::StudyFile::open(path_)
                    ->addEvent({0, QDateTime::currentMSecsSinceEpoch() + 1, "T. Varga",
                                core::FlipBegun{2, "boot-" + std::to_string(boot)}})
                    .ok());
    ASSERT_TRUE(session->resume().ok());
    ASSERT_TRUE(support::waitUntil([&] { return !session->isRunning(); }));
  };
  for (int boot = 1; boot <= 5; ++boot) resume(boot);
  EXPECT_NE(session->problem()->sentence().find("5 restarts in a row, and no visit began"), std::string::npos)
      << session->problem()->sentence();
  runToEnd(*session);  // a person may try again
  EXPECT_EQ(session->problem()->sentence().find("restarts in a row"), std::string::npos);
}

TEST_F(BenchWork, RecordsWithEachPassWhichGraphicsDeviceWasBusy) {
  const auto card = [&](const std::string& address, const std::string& busy) {
    setting("/sys/bus/pci/devices/" + address + "/class", "0x030000\n");
    setting("/sys/bus/pci/devices/" + address + "/gpu_busy_percent", busy + "\n");
  };
  card("0000:00:02.0", "97");
  card("0000:03:00.0", "2");
  core::Study one = study();
  one.variable().device = "0000:03:00.0";
  one.cases[0].command = {"sh", "-c", "sleep 1.8; echo '{\"seconds\": 1.8}'"};
  const auto session = sessionFor(one);
  runToEnd(*session);
  const auto again = open();
  ASSERT_EQ(again->recorded().passes.size(), 2U);
  const std::vector<core::DeviceLoad> loads{{"0000:00:02.0", 97}, {"0000:03:00.0", 2}};
  for (const core::Pass& pass : again->recorded().passes) EXPECT_EQ(pass.loads, loads);
  const auto judged = core::judgementOf(one, store::recordOf(again->recorded()));
  EXPECT_EQ(judged.doubts.front().rank, core::DoubtRank::Stop);
  EXPECT_EQ(std::count_if(judged.doubts.begin(), judged.doubts.end(),
                          [](const auto& doubt) { return doubt.id.starts_with("other_device"); }),
            2);
}

TEST_F(BenchWork, PutsWhatPeopleStateIntoEveryCapture) {
  const auto session = sessionFor(study());
  EXPECT_EQ(session->decisions().state("room_temperature", "warm").error().kind, ErrorKind::Malformed);
  ASSERT_TRUE(session->decisions().state("room_temperature", "22.5").ok());
  ASSERT_TRUE(session->decisions().state("cooler", "tower").ok());
  ASSERT_TRUE(session->decisions().state("cooler", "").ok());  // taken back
  runToEnd(*session);
  const core::Capture& capture = session->recorded().captures.front().capture;
  EXPECT_EQ(capture.number("stated/room_temperature"), 22.5);
  EXPECT_EQ(capture.find("stated/room_temperature")->source, "stated by T. Varga");
  EXPECT_EQ(capture.find("stated/cooler"), nullptr);
}

TEST_F(BenchWork, WaitsForAPersonWhereTheLevelsAreSetByHand) {
  core::Study by_hand = study();
  by_hand.variable().levels[1].writes.clear();
  by_hand.plan.order = core::Order::ThereAndBack;
  by_hand.plan.passes_per_level = 2;
  const auto session = sessionFor(by_hand);
  std::vector<std::size_t> done;  // passes at each wait
  for (const char* now : {"powersave\n", "powersave\n", "performance\n", "performance\n", "powersave\n"}) {
    setting(governor(0), now);
    runToEnd(*session);
    done.push_back(session->recorded().passes.size());
    EXPECT_EQ(session->state(), done.size() < 5 ? State::Idle : State::Finished);
  }
  // The first level is asked for like any other: nothing says what must be read there.
  EXPECT_EQ(done, (std::vector<std::size_t>{0, 1, 2, 3, 4}));
  EXPECT_EQ(session->recorded().visits.size(), 4U);
}

TEST_F(BenchWork, RecordsALevelThatCannotBeReached) {
  const auto session = sessionFor(study());
  EXPECT_EQ(session->decisions().declareUnreachable(core::ConfigurationId::Changed, " ").error().kind,
            ErrorKind::OutOfRange);
  ASSERT_TRUE(session->decisions().declareUnreachable(core::ConfigurationId::Changed, "it stays at powersave").ok());
  const auto record = store::recordOf(open()->recorded());
  ASSERT_EQ(record.unreachable.size(), 1U);
  EXPECT_EQ(record.unreachable[0].reason, "it stays at powersave");
}

TEST_F(BenchWork, RemembersTheBenchAndWhereItsLevelsAreFound) {
  core::Study one = study();
  one.variable().levels[1].menu_path = "Advanced > Processor > Governor";
  const auto session = sessionFor(study());
  ASSERT_TRUE(session->replaceStudy(one).ok());
  ASSERT_TRUE(session->approve().ok());
  runToEnd(*session);
  const store::BenchRegister benches(files_.benches);
  EXPECT_EQ(benches.benches()->at(0).name, "Dome node 3 (stand-in)");
  EXPECT_EQ(benches.entries("Dome node 3 (stand-in)")->size(), 2U);  // once at each level
  EXPECT_EQ(*benches.menuPath("Dome node 3", "governor", one.variable().levels[1].name),
            "Advanced > Processor > Governor");
}

}  // namespace
