#include "cli/json/companions_json.h"

#include "cli/json/or_null.h"

namespace cli {
namespace {

using nlohmann::ordered_json;

void addChange(ordered_json& out, const std::optional<core::PercentChange>& improvement,
               const std::optional<core::UnitChange>& difference) {
  const auto* percent = improvement && improvement->interval ? &*improvement->interval : nullptr;
  const auto* unit = difference && difference->interval ? &*difference->interval : nullptr;
  out["improvement_percent"] = improvement ? ordered_json(improvement->value) : ordered_json();
  out["improvement_lo_percent"] = percent ? ordered_json(percent->lo) : ordered_json();
  out["improvement_hi_percent"] = percent ? ordered_json(percent->hi) : ordered_json();
  out["difference"] = difference ? ordered_json(difference->value) : ordered_json();
  out["difference_lo"] = unit ? ordered_json(unit->first) : ordered_json();
  out["difference_hi"] = unit ? ordered_json(unit->second) : ordered_json();
}

}  // namespace

ordered_json companionsJson(const core::Study& study, const core::Judgement& judgement) {
  ordered_json list = ordered_json::array();
  for (const core::CompanionFinding& finding : judgement.companions) {
    ordered_json one{{"case", study.cases[finding.case_index].title()},
                     {"alone", study.cases[finding.alone_index].title()},
                     {"at", ordered_json::array()}};
    for (const core::BesideAt& level : finding.at) {
      ordered_json at{{"configuration", study.nameOf(level.configuration)}, {"passes", level.passes}};
      addChange(at, level.improvement, level.difference);
      one["at"].push_back(std::move(at));
    }
    addChange(one, finding.improvement, finding.difference);
    one["p"] = orNull(finding.p_zero);
    one["p_holm"] = finding.p_holm ? ordered_json(finding.p_holm->zero) : ordered_json();
    one["reading"] = core::besideReadingName(finding.reading());
    one["marks"] = finding.marks.names();
    one["sentence"] = core::companionText(finding, study, judgement.pair);
    list.push_back(std::move(one));
  }
  return list;
}

}  // namespace cli
