#include "report/json/companions_json.h"

#include "report/json/change_json.h"
#include "report/json/or_null.h"

namespace report {

using nlohmann::ordered_json;

ordered_json companionsJson(const core::Study& study, const core::Judgement& judgement) {
  ordered_json list = ordered_json::array();
  for (const core::CompanionFinding& finding : judgement.companions) {
    ordered_json one{{"case", study.cases[finding.case_index].title()},
                     {"alone", study.cases[finding.alone_index].title()},
                     {"at", ordered_json::array()}};
    for (const core::BesideAt& level : finding.at) {
      ordered_json at{{"configuration", study.nameOf(level.configuration)}, {"passes", level.passes}};
      addChange(at, level);
      one["at"].push_back(std::move(at));
    }
    addChange(one, finding);
    one["p"] = orNull(finding.p_zero);
    one["p_holm"] = finding.p_holm ? ordered_json(finding.p_holm->zero) : ordered_json();
    one["reading"] = core::besideReadingName(finding.reading());
    one["marks"] = finding.marks.names();
    one["sentence"] = core::companionText(finding, study, judgement.pair);
    list.push_back(std::move(one));
  }
  return list;
}

}  // namespace report
