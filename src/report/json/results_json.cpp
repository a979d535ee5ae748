#include "report/json/results_json.h"

#include "report/json/change_json.h"
#include "report/json/or_null.h"

namespace report {
namespace {

using nlohmann::ordered_json;

/// What every entry has, with nothing found yet.
ordered_json entryOf(const core::CaseResult& result, bool is_headline) {
  ordered_json out{{"name", result.called()},
                   {"unit", result.metric.unit},
                   {"direction", result.metric.direction == core::Direction::HigherIsBetter ? "higher" : "lower"},
                   {"is_headline", is_headline},
                   {"is_control", result.is_control},
                   {"at", ordered_json::array()}};
  addChange(out, {});
  out.update({{"p", nullptr}, {"p_holm", nullptr}, {"verdict", nullptr}, {"marks", ordered_json::array()}});
  return out;
}

ordered_json levelOf(const core::Study& study, core::ConfigurationId at, double mean, int passes) {
  return {{"configuration", study.nameOf(at)}, {"mean", mean}, {"passes", passes}};
}

void addClaim(ordered_json& out, const core::Claimed& claim) {
  out["p_holm"] = claim.p_holm ? ordered_json(claim.p_holm->zero) : ordered_json();
  out["verdict"] = core::verdictName(claim.verdict);
  out["marks"] = claim.marks.names();
}

ordered_json headlineJson(const core::Study& study, const core::Judgement& judgement,
                          const core::CaseFinding& finding) {
  ordered_json out = entryOf(study.cases[finding.case_index], true);
  if (const core::ValuesOf* values = judgement.shape.valuesOf(finding.case_index))
    for (std::size_t i = 0; i < values->at.size(); ++i)
      if (const core::ConfigurationId at = core::configurationAt(i); values->at[i].mean)
        out["at"].push_back(levelOf(study, at, *values->at[i].mean, values->at[i].passes));
  if (!finding.effect) return out;
  const bool is_ratio = finding.effect->is_log;
  addChange(out, {is_ratio ? std::optional(finding.improvement) : std::nullopt, finding.difference});
  if (finding.effect->contrast.inference) out["p"] = finding.effect->contrast.inference->p;
  addClaim(out, finding);
  return out;
}

ordered_json furtherJson(const core::Study& study, const core::FurtherFinding& finding) {
  ordered_json out = entryOf(study.cases[finding.case_index].further[finding.place], false);
  for (const core::ResultAt& one : finding.at)
    out["at"].push_back(levelOf(study, one.configuration, one.mean, one.passes));
  addChange(out, finding);
  out["p"] = orNull(finding.p_zero);
  if (finding.isTold()) addClaim(out, finding);
  return out;
}

}  // namespace

ordered_json resultsJson(const core::Study& study, const core::Judgement& judgement,
                         const core::CaseFinding& headline) {
  ordered_json list = ordered_json::array({headlineJson(study, judgement, headline)});
  for (const core::FurtherFinding* one : core::furtherOf(judgement.further, headline.case_index))
    list.push_back(furtherJson(study, *one));
  return list;
}

}  // namespace report
