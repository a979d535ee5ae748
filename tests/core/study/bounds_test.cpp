// The bounds that docs/study-format.md states are those that hold: what lies on one is taken, what lies beyond is not.
#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <regex>

#include "support/studies.h"
#include "support/test_folder.h"

namespace {

struct Bound {
  const char* row;  // its first words in the table
  std::function<void(core::Study&, double)> set;
  double step = 1;  // so much beyond is too much
};

core::Study ladderOfSize(std::size_t levels) {
  core::Study study = support::ladderOf();
  core::Variable& link = study.variable();
  while (link.levels.size() < levels) {
    link.levels.push_back(link.levels.back());
    link.levels.back().name = "step " + std::to_string(link.levels.size());
    link.levels.back().resource = 4 * static_cast<double>(link.levels.size());
  }
  link.levels.resize(levels);
  study.plan.drawn = core::drawRounds(levels, study.plan.rounds, 1);
  return study;
}

// As many passes as are asked for, in thousands at each of two levels.
core::Study studyOfPasses(double passes) {
  core::Study study = support::studyOf({"workload", "{log}"}, 1000);
  const auto cases = static_cast<std::size_t>(std::ceil(passes / 2000));
  while (study.cases.size() < cases) {
    study.cases.push_back(study.cases.front());
    study.cases.back().preset = std::to_string(study.cases.size());
  }
  return study;
}

const std::vector<Bound>& bounds() {
  const auto text = [](double size) { return std::string(static_cast<std::size_t>(size), 'x'); };
  static const std::vector<Bound> kBounds{
      {"bytes of a name", [=](core::Study& s, double n) { s.bench = text(n); }},
      {"bytes of a command",
       [=](core::Study& s, double n) {
         s.cases[0].command = {text(n - 7), "{log}"};
       }},
      {"configurations, and levels", [](core::Study& s, double n) { s = ladderOfSize(static_cast<std::size_t>(n)); }},
      {"`rounds`", [](core::Study& s, double n) { s = support::roundsOf(static_cast<int>(n)); }},
      {"`passes_per_visit`", [](core::Study& s, double n) { s = support::roundsOf(5, static_cast<int>(n)); }},
      {"passes of a plan", [](core::Study& s, double n) { s = studyOfPasses(n); }, 2000},
      {"`confidence`", [](core::Study& s, double n) { s.confidence = n; }, 1e-6},
      {"`notice_threshold_percent`", [](core::Study& s, double n) { s.notice_threshold_percent = n; }, 0.001},
  };
  return kBounds;
}

std::string problemAt(const Bound& bound, double value) {
  core::Study study = support::roundsOf(5);
  bound.set(study, value);
  const auto problems = core::problemsOf(study);
  return problems.empty() ? "" : problems.front().sentence();
}

TEST(StudyBounds, AreThoseThatTheFormatStates) {
  const std::string page = support::contents(std::string(IRON_LEVER_SOURCE) + "/docs/study-format.md");
  for (const Bound& bound : bounds()) {
    const auto row = page.rfind(std::string("\n| ") + bound.row);
    ASSERT_NE(row, std::string::npos) << bound.row;
    const std::string line = page.substr(row + 1, page.find('\n', row + 1) - row - 1);
    std::smatch cells;
    ASSERT_TRUE(std::regex_match(line, cells, std::regex(R"(\|[^|]*\| *([0-9.]*) *\| *([0-9.]+) *\|)"))) << line;
    const double most = std::stod(cells[2]);
    EXPECT_EQ(problemAt(bound, most), "") << line;
    EXPECT_NE(problemAt(bound, most + bound.step), "") << line;
    if (cells[1].str().empty()) continue;
    const double least = std::stod(cells[1]);
    EXPECT_EQ(problemAt(bound, least), "") << line;
    EXPECT_NE(problemAt(bound, least - bound.step), "") << line;
  }
}

}  // namespace
