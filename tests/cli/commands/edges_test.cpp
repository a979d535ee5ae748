// What a script or a person at the terminal meets at the edge: numbers that people really have, a reader that goes
// away, a name that nothing is called by, any two configurations.
#include <sys/wait.h>
#include <unistd.h>
#include <stdexcept>

#include "cli/exit_code.h"
#include "cli/planted_bench.h"

namespace {

using nlohmann::json;
using support::Outcome;

class Edges : public support::PlantedBench {
 protected:
  static bool holds(const std::string& text, const std::string& part) { return text.find(part) != std::string::npos; }
  core::Study typed(int passes) {
    core::Study typed = support::timedStudyOf({}, passes);
    typed.cases[0].source = core::ResultSource::ByHand;
    typed.cases[0].command.clear();
    return typed;
  }
};

TEST_F(Edges, EqualTypedResultsEndNothing) {
  make(typed(2));
  for (const char* value : {"60", "60", "61", "61"}) ASSERT_EQ(cli({"type", "s", value}).code, 0);
  const Outcome found = cli({"findings", "s"});
  EXPECT_EQ(found.code, 0) << found.err;
  EXPECT_TRUE(holds(found.out, "not settled")) << found.out;
  EXPECT_EQ(cli({"plan", "s"}).code, 0);
}

TEST_F(Edges, AGuessThatNoNumberFitsIsRefusedWithItsPlace) {
  core::Study asked = typed(2);
  asked.plan.guess.pass_spread_percent = -150;
  folder_.write("design.json", store::studyToJson(asked));
  const Outcome made = cli({"new", "s", "--design", "design.json"});
  EXPECT_EQ(made.code, 1);
  EXPECT_TRUE(holds(made.err, "plan.guess")) << made.err;
  asked = typed(2);
  asked.confidence = 0.99999999;
  folder_.write("design.json", store::studyToJson(asked));
  EXPECT_TRUE(holds(cli({"new", "s", "--design", "design.json"}).err, "the confidence must be 50 to 99.99 %"));
}

TEST_F(Edges, LooksAreOfRoundsAndAOneWayFlipIsVisitedOnce) {
  core::Study asked = typed(2);
  asked.plan.looks = {3};
  folder_.write("design.json", store::studyToJson(asked));
  EXPECT_TRUE(holds(cli({"new", "s", "--design", "design.json"}).err, "only a plan of rounds has interim looks"));
  asked = typed(2);
  asked.plan.order = core::Order::ThereAndBack;
  asked.plan.is_one_way = true;
  folder_.write("design.json", store::studyToJson(asked));
  EXPECT_TRUE(holds(cli({"new", "s", "--design", "design.json"}).err, "a flip that nobody undoes"));
}

TEST_F(Edges, AFactThatNothingIsCalledIsNamedAtOnceWithWhatIsNear) {
  core::Study asked = typed(2);
  asked.cases[0].source = core::ResultSource::JsonField;  // on this machine
  asked.cases[0].command = {"true"};
  asked.held = {"kernel/osreleas"};
  folder_.write("design.json", store::studyToJson(asked));
  const Outcome made = cli({"new", "s", "--design", "design.json"});
  EXPECT_EQ(made.code, 0) << made.err;
  EXPECT_TRUE(holds(made.out, "no fact of this bench is called 'kernel/osreleas'; did you mean 'kernel/osrelease'?"))
      << made.out;
}

TEST_F(Edges, APageIsNotWrittenUnderAnotherKindsName) {
  make(typed(1));
  for (const char* value : {"60", "61"}) ASSERT_EQ(cli({"type", "s", value}).code, 0);
  const Outcome refused = cli({"report", "s", "--out", "r.doc"});
  EXPECT_EQ(refused.code, 2);
  EXPECT_TRUE(holds(refused.err, "Name it .html")) << refused.err;
  EXPECT_EQ(cli({"report", "s", "--out", "r.html"}).code, 0);
}

// `findings --json | true`: nobody reads, and no disk is full.
TEST_F(Edges, AReaderThatGoesAwayIsNoFullDisk) {
  make(typed(1));
  int ends[2];
  ASSERT_EQ(::pipe(ends), 0);
  ::close(ends[0]);  // nobody reads
  const pid_t child = ::fork();
  ASSERT_GE(child, 0);
  if (child == 0) {
    ::dup2(ends[1], STDOUT_FILENO);
    if (::chdir(folder_.path().c_str()) != 0) ::_exit(126);
    const std::string program =
        (QCoreApplication::applicationDirPath() + QStringLiteral("/iron-lever-cli")).toStdString();
    ::execl(program.c_str(), program.c_str(), "findings", "s", "--json", nullptr);
    ::_exit(127);
  }
  ::close(ends[1]);
  int status = 0;
  ASSERT_EQ(::waitpid(child, &status, 0), child);
  EXPECT_TRUE(WIFEXITED(status));
  EXPECT_EQ(WEXITSTATUS(status), 3);
}

TEST_F(Edges, WhatACommandThrowsIsAnErrorWithARemedy) {
  const auto ended = cli::guarded([]() -> core::Result<cli::ExitCode> { throw std::domain_error("a number of none"); });
  ASSERT_FALSE(ended.ok());
  EXPECT_TRUE(holds(ended.error().what, "a number of none"));
  EXPECT_FALSE(ended.error().remedy.empty());
}

TEST_F(Edges, AnyTwoConfigurationsAreComparedAndMarkedWhereNobodyAsked) {
  core::Study ladder = typed(2);
  ladder.shape = core::Shape::Ladder;
  ladder.variables = {support::linkOf({{"Gen 1", 3.94}, {"Gen 2", 7.88}, {"Gen 3", 15.75}, {"Gen 4", 31.5}})};
  make(ladder);
  for (const char* value : {"60", "61", "50", "51", "44", "45", "40", "41"})
    ASSERT_EQ(cli({"type", "s", value}).code, 0);
  const Outcome chosen = cli({"findings", "s", "--between", "Gen 2", "--and", "Gen 4"});
  EXPECT_EQ(chosen.code, 0) << chosen.err;
  EXPECT_TRUE(holds(chosen.out, ", chosen afterwards.")) << chosen.out;
  EXPECT_TRUE(holds(chosen.out, "from Gen 2 to Gen 4")) << chosen.out;
  const json both = json::parse(cli({"findings", "s", "--between", "Gen 2", "--and", "Gen 4", "--json"}).out);
  EXPECT_TRUE(both["chosen_afterwards"]);
  EXPECT_FALSE(json::parse(cli({"findings", "s", "--json"}).out)["chosen_afterwards"]);
  EXPECT_FALSE(holds(cli({"findings", "s", "--between", "Gen 1", "--and", "Gen 4"}).out, "chosen afterwards"));
  EXPECT_EQ(cli({"findings", "s", "--between", "Gen 2", "--and", "Gen 9"}).code, 2);
  EXPECT_EQ(cli({"findings", "s", "--between", "Gen 2"}).code, 2);
}

TEST_F(Edges, JsonLinesWhoseFieldSaysMillisecondsNeedNoUnit) {
  std::string log;
  for (int i = 0; i < 40; ++i) log += "{\"frame_ms\": " + std::to_string(16.0 + 0.1 * (i % 3)) + "}\n";
  folder_.write("run.jsonl", log);
  const Outcome measured = cli({"measure", "run.jsonl"});
  EXPECT_EQ(measured.code, 0) << measured.err;
  core::Study asked = support::studyOf({"true", "{log}"}, 1);
  make(asked);
  const Outcome imported = cli({"import", "s", "run.jsonl", "--level", "4800 MT/s"});
  EXPECT_EQ(imported.code, 0) << imported.err;
}

}  // namespace
