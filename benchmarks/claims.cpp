// What whole studies claim on a bench whose truth is known: false claims in families of cases, doubts of clean studies,
// results that were rounded, what sharing the spread buys, what a plan from a pilot keeps of its promise. Prints the
// third table of docs/method.md.
//   claims_benchmark [STUDIES [claims|rounded|spread|shapes|looks|extensions|pilots]]
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <functional>
#include <map>
#include <random>
#include <set>
#include <string>
#include <vector>

#include <fmt/format.h>

#include "core/judgement/judgement.h"
#include "core/planning/candidate_plans.h"
#include "core/planning/extension.h"
#include "core/values/percent.h"
#include "support/recorded_study.h"

namespace {

/// A bench: what is true of each configuration on the ln scale, and how passes and flips vary.
struct Bench {
  std::vector<double> truth;
  std::vector<double> pass_sd;
  double flip_sd = 0;
  double step = 0;  ///< to which results are rounded; 0: not at all
};

core::Study withCases(core::Study study, std::size_t cases) {
  while (study.cases.size() < cases) {
    study.cases.push_back(study.cases[0]);
    study.cases.back().preset = fmt::format("preset {}", study.cases.size());
  }
  return study;
}

void draw(support::RecordedStudy& recorded, const Bench& bench, std::mt19937_64& random) {
  std::normal_distribution<double> normal;
  std::map<int, double> flips;
  recorded.record([&](core::Pass& pass, const core::Slot& slot) {
    if (!flips.contains(slot.visit)) flips[slot.visit] = bench.flip_sd * normal(random);
    const std::size_t at = core::placeOf(slot.configuration);
    double value = 60 * std::exp(bench.truth[at] + flips[slot.visit] + bench.pass_sd[at] * normal(random));
    if (bench.step > 0) value = std::round(value / bench.step) * bench.step;
    pass.value = value;
    pass.started_ms = 60000 * pass.id;
  });
}

/// The share of studies, in percent, of which something holds.
double share(const core::Study& study, const Bench& bench, int studies,
             const std::function<bool(const core::Judgement&)>& holds) {
  std::mt19937_64 random(20261130);
  support::RecordedStudy recorded{study};
  int count = 0;
  for (int i = 0; i < studies; ++i) {
    draw(recorded, bench, random);
    count += holds(recorded.judged());
  }
  return 100.0 * count / studies;
}

bool anyCase(const core::Judgement& judged, const std::function<bool(const core::CaseFinding&)>& is) {
  return std::any_of(judged.findings.cases.begin(), judged.findings.cases.end(), is);
}

void claims(int studies) {
  const core::Study six = withCases(support::roundsOf(5, 2), 6);
  const auto gains = [](const core::CaseFinding& one) { return one.verdict == core::Verdict::Gain && !one.marks.any(); };
  fmt::print("| six cases exactly at the threshold | some false *gain* | {:.1f} % |\n",
             share(six, {{0, std::log1p(0.02)}, {0.01, 0.01}}, studies,
                   [&](const core::Judgement& judged) { return anyCase(judged, gains); }));
  const auto claimed = [](const core::CaseFinding& one) {
    using core::Verdict;
    const bool is_false = one.verdict != Verdict::NotSettled && one.verdict != Verdict::NoDifferenceThatMatters;
    return is_false && !one.marks.any();
  };
  fmt::print("| six cases without effect | some false claim | {:.1f} % |\n",
             share(six, {{0, 0}, {0.01, 0.01}}, studies,
                   [&](const core::Judgement& judged) { return anyCase(judged, claimed); }));
  const core::Study clean = withCases(support::roundsOf(6, 3), 6);
  for (const char* kind : {"drift", "warm_up", "odd_passes", "odd_visit"})
    fmt::print("| six clean cases | the doubt {} | {:.1f} % |\n", kind,
               share(clean, {{0, 0.05}, {0.01, 0.01}, 0.004}, studies, [&](const core::Judgement& judged) {
                 return std::any_of(judged.doubts.begin(), judged.doubts.end(),
                                    [&](const core::Doubt& one) { return one.kind->id == std::string(kind); });
               }));
}

/// How often the interval of the study's own pair holds the truth, in percent, and half its width, in percent.
struct Interval {
  double right = 0;
  double half_width = 0;
};
Interval intervals(const core::Study& study, const Bench& bench, int studies) {
  const double truth = core::percentOfLn(bench.truth.back() - bench.truth.front());
  double width = 0;
  const double right = share(study, bench, studies, [&](const core::Judgement& judged) {
    const auto& interval = judged.findings.cases[0].improvement.interval;
    if (!interval) return false;
    width += interval->hi - interval->lo;
    return interval->lo <= truth && truth <= interval->hi;
  });
  return {right, width / 2 / studies};
}

void rounded(int studies) {
  for (const double sd : {0.003, 0.0015})
    for (const auto& [name, study] : {std::pair{"5 rounds of 2", support::roundsOf(5, 2)},
                                      std::pair{"blocked, 5 and 5", support::studyOf({"workload", "{log}"}, 5)}}) {
      const Interval found = intervals(study, {{0, 0.012}, {sd, sd}, 0, 1}, studies);
      fmt::print("| whole numbers, passes {:g} %, {} | interval holds | {:.1f} % |\n", 100 * sd, name, found.right);
    }
}

void sharedSpread(int studies) {
  for (const std::size_t levels : {4U, 12U})
    for (const auto spread : {core::Spread::Own, core::Spread::Shared})
      for (const double wide : {1.0, 2.0}) {
        core::Study study = support::ladderOf(3, 1);
        core::Variable& variable = study.variable();
        Bench bench;
        while (variable.levels.size() < levels) {
          variable.levels.push_back(variable.levels.back());
          variable.levels.back().name = fmt::format("Gen {}", variable.levels.size());
        }
        for (std::size_t i = 0; i < levels; ++i) {
          bench.truth.push_back(0.005 * static_cast<double>(i));
          bench.pass_sd.push_back(i + 1 == levels ? 0.01 * wide : 0.01);
        }
        study.plan.spread = spread;
        study.plan.drawn = core::drawRounds(levels, 3, 3);
        const Interval found = intervals(study, bench, studies);
        fmt::print("| ladder of {} in 3 rounds, spread {}{} | interval holds, half-width | {:.1f} %, {:.2f} % |\n", levels,
                   core::spreadName(spread), wide > 1 ? ", the highest level twice as wide" : "", found.right,
                   found.half_width);
      }
}

// Of shapes besides a ladder, and with passes that are typed: how often the interval of what they are about holds.
void shapes(int studies) {
  core::Study group = support::crossedOf(4);
  group.variables[1].is_group = true;
  for (auto& [name, study] : {std::pair{"pair, 4 rounds of 2", support::roundsOf(4, 2)},
                              {"chain of 4, 4 rounds of 2", support::chainOf(4)},
                              {"crossing of 2 x 2, 4 rounds of 2", support::crossedOf(4)},
                              {"crossing with a group, 4 rounds of 2", group}})
    for (const auto spread : {core::Spread::Own, core::Spread::Shared}) {
      if (study.configurationCount() == 2 && spread == core::Spread::Shared) continue;
      core::Study asked = study;
      asked.plan.spread = spread;
      Bench bench{{}, {}, 0.005};
      for (std::size_t i = 0; i < asked.configurationCount(); ++i) {
        bench.truth.push_back(0.01 * static_cast<double>(i));
        bench.pass_sd.push_back(0.01);
      }
      const auto holds = share(asked, bench, studies, [&](const core::Judgement& judged) {
        const auto& interval = judged.findings.cases[0].improvement.interval;
        const double truth = core::percentOfLn(bench.truth[core::placeOf(judged.pair.to)] -
                                               bench.truth[core::placeOf(judged.pair.from)]);
        return interval && interval->lo <= truth && truth <= interval->hi;
      });
      fmt::print("| {}, spread {} | interval holds | {:.1f} % |\n", name, core::spreadName(spread), holds);
    }
}

bool holdsTruth(const core::Judgement& judged, double truth_percent) {
  const auto& interval = judged.findings.cases[0].improvement.interval;
  return interval && interval->lo <= truth_percent && truth_percent <= interval->hi;
}

// A study that is stopped at the first look at which its verdict is settled, else goes on to its end.
void looks(int studies) {
  for (const auto& at : {std::vector{12}, std::vector{6, 12}, std::vector{3, 12}, std::vector{4, 8, 12},
                         std::vector{3, 4, 9, 12}, std::vector{4, 6, 8, 10, 12}})
    for (const auto price : {core::LookPrice::Thirds, core::LookPrice::Spending}) {
      if (price == core::LookPrice::Thirds && at.size() != 3) continue;
      core::Study study = support::roundsOf(12, 1);
      study.plan.looks = at.size() > 1 ? at : std::vector<int>{};
      study.plan.look_price = price;
      std::string cells;
      for (const double truth : {0.0, 2.0, 4.0}) {
        std::mt19937_64 random(20261130);
        int held = 0;
        double rounds = 0;
        for (int i = 0; i < studies; ++i) {
          support::RecordedStudy whole{study};
          draw(whole, {{0, std::log1p(truth / 100)}, {0.015, 0.015}}, random);
          for (const int look : at) {
            support::RecordedStudy part = whole;
            part.passes.resize(static_cast<std::size_t>(2 * look));
            part.also.is_stopped_at_look = look < at.back();
            const core::Judgement judged = part.judged();
            if (look < at.back() && !core::isSettled(judged.findings.cases[0].verdict)) continue;
            held += holdsTruth(judged, truth);
            rounds += look;
            break;
          }
        }
        cells += fmt::format("{}{:.1f} % in {:.1f} rounds", cells.empty() ? "" : "; ", 100.0 * held / studies,
                             rounds / studies);
      }
      fmt::print("| looks after {} of 12 rounds, {} | interval at the stop holds, truth 0, 2, 4 % | {} |\n",
                 fmt::join(at, ", "), price == core::LookPrice::Thirds ? "a third of the error each" : "by spending",
                 cells);
    }
}

// A plan that is extended once, where its spread asks for it.
void extensions(int studies) {
  for (const int rounds : {4, 6, 10})
    for (const auto spread : {core::ExtensionSpread::All, core::ExtensionSpread::FirstPart}) {
      std::mt19937_64 random(20261130);
      std::normal_distribution<double> normal;
      int held = 0;
      int extended = 0;
      double sum = 0;
      for (int i = 0; i < studies; ++i) {
        support::RecordedStudy recorded{support::roundsOf(rounds, 2)};
        const Bench bench{{0, 0.01}, {0.012, 0.012}, 0.004};
        draw(recorded, bench, random);
        core::Judgement judged = recorded.judged();
        if (judged.extension && judged.extension->rounds < 400) {
          const auto first = recorded.passes;
          recorded.study = core::extended(recorded.study, *judged.extension);
          recorded.study.plan.extension_spread = spread;
          draw(recorded, bench, random);
          for (std::size_t pass = 0; pass < first.size(); ++pass) recorded.passes[pass].value = first[pass].value;
          judged = recorded.judged();
          ++extended;
        }
        sum += recorded.study.plan.rounds;
        held += holdsTruth(judged, core::percentOfLn(0.01));
      }
      fmt::print("| {} rounds of 2, extended in {:.0f} of 100, to {:.0f} on the average; spread of {} | interval holds | "
                 "{:.1f} % |\n",
                 rounds, 100.0 * extended / studies, sum / studies,
                 spread == core::ExtensionSpread::All ? "all rounds" : "the first part", 100.0 * held / studies);
    }
}

// A pilot of three passes tells the spread; a plan is made for 90 of 100; the chance that it has is told by the truth.
void pilots(int studies) {
  std::mt19937_64 random(20261130);
  std::normal_distribution<double> normal;
  constexpr double kSd = 0.01;
  for (const bool knows_df : {false, true}) {
    double sum = 0;
    int below = 0;
    for (int i = 0; i < studies; ++i) {
      std::vector<double> pilot{kSd * normal(random), kSd * normal(random), kSd * normal(random)};
      core::NoiseFloor noise{std::max(1e-4, std::sqrt(core::sumOfSquares(pilot) / 2)), 0, {}};
      noise.spread_df = knows_df ? 2 : 0;
      const auto size = core::smallestSize(core::PlanDesign::Rounds, 1, noise, {});
      const double power = core::planValue(core::PlanDesign::Rounds, size.value_or(1000), 1, {kSd, 0, {}}, {}).power;
      sum += power;
      below += power < 0.8;
    }
    fmt::print("| plans for 90 of 100 from a pilot of three passes, its degrees of freedom {} | kept on the average; below "
               "80 | {:.0f} of 100; {:.0f} % |\n",
               knows_df ? "counted" : "forgotten", 100 * sum / studies, 100.0 * below / studies);
  }
}

}  // namespace

int main(int count, char** words) {
  std::setvbuf(stdout, nullptr, _IOLBF, 0);  // it takes a while: each line as soon as it is known
  const int studies = count > 1 ? std::atoi(words[1]) : 1000;
  const std::string part = count > 2 ? words[2] : "";
  const std::vector<std::pair<std::string, std::function<void()>>> parts{
      {"claims", [&] { claims(studies); }},
      {"rounded", [&] { rounded(studies); }},
      {"spread", [&] { sharedSpread(studies); }},
      {"shapes", [&] { shapes(studies); }},
      {"looks", [&] { looks(studies); }},
      {"extensions", [&] { extensions(studies); }},
      {"pilots", [&] { pilots(std::min(studies, 1000)); }}};
  fmt::print("| bench and study | of studies | share |\n| --- | --- | ---: |\n");
  for (const auto& [name, run] : parts)
    if (part.empty() || part == name) run();
}
