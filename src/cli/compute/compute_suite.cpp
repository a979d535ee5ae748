#include "cli/compute/compute_suite.h"

#include "cli/compute/vector_input.h"
#include "core/estimate/suite.h"
#include "core/values/percent.h"

namespace cli {
namespace {

using core::Result;
using nlohmann::json;
using nlohmann::ordered_json;

ordered_json partJson(const core::Contrast& contrast) {
  if (!contrast.inference) return nullptr;
  return {{"se", *contrast.se},
          {"df", contrast.inference->df},
          {"p", contrast.inference->p},
          {"lo_percent", core::percentOfLn(contrast.inference->lo)},
          {"hi_percent", core::percentOfLn(contrast.inference->hi)}};
}

ordered_json summaryJson(const core::SuiteSummary& suite, std::size_t cases) {
  ordered_json out{{"cases", cases},
                   {"d", suite.this_suite.difference},
                   {"geometric_mean_percent", core::percentOfLn(suite.this_suite.difference)},
                   {"arithmetic_mean_percent", suite.arithmetic_mean_percent},
                   {"this_suite", partJson(suite.this_suite)},
                   {"cases_like_these", partJson(suite.cases_like_these)}};
  if (suite.cases_like_these.inference) out["cases_like_these"]["widened"] = suite.is_widened;
  return out;
}

// Visits are lists of cases, each a list of passes.
void addVisit(std::vector<core::SuiteCase>& cases, core::ConfigurationId configuration, int number, int round,
              const json& visit) {
  for (std::size_t i = 0; i < cases.size(); ++i)
    cases[i].visits.push_back({configuration, number, round, visit.at(i).get<std::vector<double>>()});
}

std::vector<core::SuiteCase> sharedCases(const json& input, int& visits) {
  std::vector<core::SuiteCase> cases;
  for (const json& direction : input.at("directions"))
    cases.push_back({directionOf({{"direction", direction}}), {}, {}});
  if (input.at("design") == "rounds") {
    int round = 0;
    for (const json& pair : input.at("rounds")) {
      addVisit(cases, core::ConfigurationId::Baseline, ++visits, ++round, pair.at("baseline"));
      addVisit(cases, core::ConfigurationId::Changed, ++visits, round, pair.at("changed"));
    }
  } else {
    for (const json& visit : input.at("baseline")) addVisit(cases, core::ConfigurationId::Baseline, ++visits, 0, visit);
    for (const json& visit : input.at("changed")) addVisit(cases, core::ConfigurationId::Changed, ++visits, 0, visit);
  }
  if (input.contains("null_study") && !input.at("null_study").is_null())
    for (const json& visit : input.at("null_study").at("visits"))
      for (std::size_t i = 0; i < cases.size(); ++i)
        cases[i].null_visits.push_back(visit.at(i).get<std::vector<double>>());
  return cases;
}

}  // namespace

Result<ordered_json> sharedSuiteGroup(const json& input) {
  int visits = 0;
  const auto cases = sharedCases(input, visits);
  const auto suite = core::summarizeSuite(cases, input.value("confidence", 0.95));
  if (!suite) return suite.error();
  ordered_json out = summaryJson(*suite, cases.size());
  const core::EstimatorChoice& design = suite->design;
  switch (design.estimator) {
    case core::Estimator::Rounds:
      out["rounds"] = design.complete_rounds;
      out["left_out"] = visits / 2 - design.complete_rounds;
      break;
    case core::Estimator::Visits:
      out["visits_baseline"] = design.visits[0];
      out["visits_changed"] = design.visits[1];
      out["left_out"] = visits - design.visits[0] - design.visits[1];
      break;
    case core::Estimator::Passes:
      out["rule"] = !suite->flip ? "none" : suite->flip->is_visit_means ? "visit means" : "moments";
      out["caveat"] = "flip variation unseen";
      if (suite->flip)
        out["caveat"] = "flip variation taken from the null study of " + input.at("null_study").value("date", "");
      break;
  }
  return out;
}

Result<ordered_json> separateSuiteGroup(const json& input) {
  const double confidence = input.value("confidence", 0.95);
  const auto summed = [&](bool with_bound) -> ordered_json {
    std::vector<core::Contrast> cases;
    for (const json& one : input.at("cases")) {
      if (!with_bound && one.value("bound_elsewhere", false)) continue;
      const bool has_se = one.contains("se") && !one.at("se").is_null();
      cases.push_back(has_se ? core::contrastFrom(one.at("d"), one.at("se"), one.at("df"), confidence)
                             : core::Contrast{one.at("d"), {}, {}, core::NoInterval::TooFewPasses});
    }
    const auto suite = core::summarizeSeparateVisits(cases, confidence);
    return suite ? summaryJson(*suite, cases.size()) : ordered_json{{"cases", 0}};
  };
  return ordered_json{{"with_bound_elsewhere", summed(true)}, {"without_bound_elsewhere", summed(false)}};
}

}  // namespace cli
