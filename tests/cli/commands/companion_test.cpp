// What runs beside a pass, by the real programs: started before it and ended after it, its log kept; one that dies,
// hangs, leaves children behind, or is missing.
#include <gtest/gtest.h>

#include <signal.h>

#include <QThread>
#include <algorithm>
#include <filesystem>

#include <nlohmann/json.hpp>

#include "store/json/study_json.h"
#include "store/study/study_file.h"
#include "support/programs.h"

namespace {

using nlohmann::json;
using support::Outcome;

// Says whether the companion's child was there, at the beginning and after a while of the pass.
constexpr const char* kCase = R"(a=$(cat beat 2>/dev/null || echo 0); sleep 0.4; b=$(cat beat 2>/dev/null || echo 0)
n=$(cat n 2>/dev/null || echo 0); n=$((n+1)); echo $n > n
echo "{\"score\": $((FACTOR * 10 + 1000 + n % 3)), \"beats\": $((b - a))}")";

// Its work is done by children, begun while the pass runs.
constexpr const char* kBeats = R"(echo "recording"; i=0
while :; do i=$((i+1)); sh -c "echo $i > beat"; sleep 0.02; done)";

class Companions : public support::ProgramsTest {
 protected:
  static json caseOf(const char* preset, const json& companion) {
    const auto points = [] { return json{{"unit", "points"}, {"direction", "higher"}}; };
    json one{
        {"workload", "Ring pass"},
        {"preset", preset},
        {"command", {"sh", "-c", kCase}},
        {"results",
         {{{"name", "score"}, {"from", "json_field"}, {"field", "score"}, {"metric", points()}, {"headline", true}},
          {{"name", "beats"}, {"from", "json_field"}, {"field", "beats"}, {"metric", points()}}}}};
    if (!companion.is_null()) one["companion"] = companion;
    return one;
  }
  void make(const json& cases, int rounds = 1, int most_failures = 5) const {
    const auto level = [](const char* name, const char* factor) {
      return json{{"name", name}, {"environment", {{"FACTOR", factor}}}};
    };
    json plan{{"order", "blocked"}, {"passes_per_level", 1}};
    if (rounds > 1) plan = {{"order", "balanced_shuffle"}, {"rounds", rounds}, {"passes_per_visit", 1}, {"seed", 3}};
    plan.update({{"warm_ups", 0}, {"time_limit_s", 20}, {"most_failures_in_a_row", most_failures}});
    const json design{{"bench", "Dome node"},
                      {"variable", "cores"},
                      {"levels", {level("4 cores", "0"), level("8 cores", "9")}},
                      {"cases", cases},
                      {"plan", plan}};
    folder_.write("design.json", design.dump());
    const Outcome made = cli({QStringLiteral("new"), QStringLiteral("s.ironlever"), QStringLiteral("--design"),
                              QStringLiteral("design.json")});
    ASSERT_EQ(made.code, 0) << made.err;
  }
  [[nodiscard]] Outcome runWhole() const {
    return cli({QStringLiteral("run"), QStringLiteral("s.ironlever"), QStringLiteral("--approve")});
  }
  [[nodiscard]] std::vector<core::Pass> passes() const {
    return store::StudyFile::open(folder_ / "s.ironlever")->recorded()->passes;
  }
  [[nodiscard]] json findings() const {
    return json::parse(cli({QStringLiteral("findings"), QStringLiteral("s.ironlever"), QStringLiteral("--json")}).out);
  }
};

json beats() { return {{"command", {"sh", "-c", kBeats}}, {"name", "a recording"}, {"starts_before_s", 0.2}}; }

TEST_F(Companions, RunBesideEachPassOfTheirCaseAndAreHeldAgainstItAlone) {
  make(json::array({caseOf("4K dome", nullptr), caseOf("4K dome", beats())}), 3);
  const Outcome ran = runWhole();
  ASSERT_EQ(ran.code, 0) << ran.out << ran.err;
  for (const core::Pass& pass : passes()) {
    const bool is_beside =
        core::scheduleOf(store::StudyFile::open(folder_ / "s.ironlever")->study())[pass.slot].case_index == 1;
    ASSERT_EQ(pass.further.size(), 1U);
    if (is_beside) {
      EXPECT_GE(*pass.further[0].value, 3) << "its children of the time of the pass are left alone";
    } else {
      EXPECT_EQ(pass.further[0].value, 0) << "none of it is left when the next pass runs";
    }
    const auto printed = store::StudyFile::open(folder_ / "s.ironlever")->output(pass.id);
    ASSERT_TRUE(printed);
    EXPECT_EQ(printed->of_companion, is_beside ? "recording\n" : "");
  }
  const json out = findings();
  EXPECT_EQ(out["cases"][1]["case"], "Ring pass, 4K dome, beside a recording");
  ASSERT_EQ(out["companions"].size(), 1U);
  const json& found = out["companions"][0];
  EXPECT_EQ(found["case"], "Ring pass, 4K dome, beside a recording");
  EXPECT_EQ(found["alone"], "Ring pass, 4K dome");
  EXPECT_EQ(found["at"].size(), 2U);
  EXPECT_EQ(found["reading"], "same") << found;
  const Outcome text = cli({QStringLiteral("findings"), QStringLiteral("s.ironlever")});
  EXPECT_NE(text.out.find("Beside a companion\n  Ring pass, 4K dome, beside a recording, against alone: "),
            std::string::npos)
      << text.out;
  const Outcome printed = cli({QStringLiteral("printed"), QStringLiteral("s.ironlever"), QStringLiteral("2")});
  EXPECT_NE((printed.out + cli({QStringLiteral("printed"), QStringLiteral("s.ironlever"), QStringLiteral("1")}).out)
                .find("Beside it:\nrecording\n"),
            std::string::npos)
      << printed.out << printed.err;
}

TEST_F(Companions, HaveTheirShareOfTheMachineSampled) {
  json busy = caseOf("4K dome", {{"command", {"sh", "-c", "while :; do :; done"}}, {"starts_before_s", 0}});
  busy["command"] = {"sh", "-c", "sleep 2.7; echo '{\"score\": 5, \"beats\": 0}'"};
  make(json::array({busy}));
  ASSERT_EQ(runWhole().code, 0);
  for (const core::Pass& pass : passes()) {
    const auto load = std::find_if(pass.samples.begin(), pass.samples.end(), [](const core::ChannelSummary& one) {
      return one.name == "core time of companion";
    });
    ASSERT_NE(load, pass.samples.end());
    EXPECT_EQ(load->unit, "%");
    EXPECT_GT(load->median, 10);  // a busy machine leaves it little
    EXPECT_LT(load->median, 120);
  }
}

TEST_F(Companions, ThatEndBeforeTheirPassFailItWithThatReason) {
  const struct {
    const char* script;
    const char* said;
  } each[]{
      {"sleep 0.3; exit 0", "what runs beside it ended before the pass did: it was done"},
      {"sleep 0.3; echo 'no camera' >&2; exit 7", "the program ended with code 7: no camera"},
      {"exit 1", "the program ended with code 1"},
      {"kill -SEGV $$", "the program crashed (signal 11"},
  };
  for (const auto& [script, said] : each) {
    std::filesystem::remove(folder_ / "s.ironlever");
    make(json::array({caseOf("4K dome", {{"command", {"sh", "-c", script}}, {"starts_before_s", 0.1}})}), 1, 1);
    const Outcome ran = runWhole();
    EXPECT_EQ(ran.code, 1) << ran.out << ran.err;
    const auto recorded = passes();
    ASSERT_EQ(recorded.size(), 1U) << script;
    EXPECT_EQ(recorded[0].status, core::PassStatus::Failed);
    EXPECT_NE(recorded[0].failure.find(said), std::string::npos) << recorded[0].failure;
    EXPECT_NE(recorded[0].failure.find("longer than a pass"), std::string::npos) << recorded[0].failure;
    EXPECT_FALSE(recorded[0].value);
  }
}

TEST_F(Companions, ThatIgnoreTheRequestToEndAreEndedAndTheirChildrenWithThem) {
  const json deaf{
      {"command", {"sh", "-c", "trap '' TERM; (i=0; while :; do i=$((i+1)); echo $i > beat; sleep 0.05; done) & wait"}},
      {"starts_before_s", 0.1}};
  make(json::array({caseOf("4K dome", deaf)}));
  const Outcome ran = runWhole();
  ASSERT_EQ(ran.code, 0) << ran.out << ran.err;
  const std::string then = support::contents(folder_ / "beat");
  QThread::msleep(300);
  EXPECT_EQ(support::contents(folder_ / "beat"), then) << "nothing of it runs on";
  EXPECT_EQ(findings()["failed_passes"], 0);
}

TEST_F(Companions, AreEndedByAPersonWhoStopsTheSheetOrAKill) {
  json slow = beats();
  slow["starts_before_s"] = 60;
  for (const int signal : {SIGINT, SIGKILL}) {
    std::filesystem::remove(folder_ / "s.ironlever");
    std::filesystem::remove(folder_ / "beat");
    make(json::array({caseOf("4K dome", slow)}));
    QProcess sheet;
    start(sheet, QStringLiteral("iron-lever-cli"),
          {QStringLiteral("run"), QStringLiteral("s.ironlever"), QStringLiteral("--approve")});
    const auto is_under_way = [&] { return std::filesystem::exists(folder_ / "beat"); };
    for (int i = 0; i < 1500 && !is_under_way(); ++i) QThread::msleep(20);
    ASSERT_TRUE(is_under_way());
    ::kill(static_cast<pid_t>(sheet.processId()), signal);
    ASSERT_TRUE(sheet.waitForFinished(30000)) << "nobody waits for the head start";
    EXPECT_TRUE(signal == SIGKILL || sheet.exitCode() == 3) << sheet.exitCode();
    QThread::msleep(200);
    const std::string then = support::contents(folder_ / "beat");
    QThread::msleep(300);
    EXPECT_EQ(support::contents(folder_ / "beat"), then) << "nothing of it runs on";
    EXPECT_TRUE(passes().empty()) << "nothing was run that could be on record";
  }
}

TEST_F(Companions, AreApprovedLikeAnyCommandAndMustBeThere) {
  make(json::array({caseOf("4K dome", {{"command", {"./no-such-recorder"}}})}));
  const Outcome asked = cli({QStringLiteral("run"), QStringLiteral("s.ironlever"), QStringLiteral("--approve")});
  EXPECT_NE(asked.err.find("no-such-recorder"), std::string::npos) << asked.err;
  EXPECT_TRUE(passes().empty());
  std::filesystem::remove(folder_ / "s.ironlever");
  make(json::array({caseOf("4K dome", beats())}));
  const Outcome unapproved = cli({QStringLiteral("run"), QStringLiteral("s.ironlever")});
  EXPECT_EQ(unapproved.code, 4) << unapproved.out << unapproved.err;
  EXPECT_NE((unapproved.out + unapproved.err).find("echo $i > beat"), std::string::npos)
      << "the person reads what it does";
}

TEST_F(Companions, StandInTheDesignAsOtherProgramsWriteIt) {
  json a_case = caseOf("4K dome", {{"command", {"./recorder", "--low"}}, {"starts_before_s", 2.5}});
  a_case["audience"] = "shows";
  make(json::array({a_case}));
  const core::Study study = store::StudyFile::open(folder_ / "s.ironlever")->study();
  EXPECT_EQ(study.cases[0].companion, (core::Companion{{"./recorder", "--low"}, "", 2.5}));
  EXPECT_EQ(study.cases[0].audience, "shows");
  const json written = json::parse(store::studyToJson(study));
  EXPECT_EQ(written["cases"][0]["companion"], a_case["companion"]);
  EXPECT_EQ(written["cases"][0]["audience"], "shows");
}

}  // namespace
