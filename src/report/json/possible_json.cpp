#include "report/json/possible_json.h"

namespace report {

using nlohmann::ordered_json;

ordered_json possibleJson(const core::Study& study, const std::vector<core::PossibleAt>& possible) {
  ordered_json all = ordered_json::array();
  for (const core::PossibleAt& one : possible) {
    ordered_json conditions = ordered_json::array();
    for (const core::ConditionMet& met : one.conditions)
      conditions.push_back({{"name", met.name}, {"passes", met.passes}, {"of", met.of}});
    all.push_back({{"case", study.cases[one.case_index].title()},
                   {"configuration", study.nameOf(one.configuration)},
                   {"answer", core::possibleName(one.answer)},
                   {"conditions", std::move(conditions)},
                   {"reason", one.reason}});
  }
  return all;
}

}  // namespace report
