#include "report/json/used_json.h"

#include "report/json/or_null.h"

namespace report {

using nlohmann::ordered_json;

ordered_json usedJson(const core::Study& study, const std::vector<core::Used>& used) {
  ordered_json all = ordered_json::array();
  for (const core::Used& one : used) {
    ordered_json at = ordered_json::array();
    for (const core::UsedLevel& level : one.at)
      at.push_back(
          {{"configuration", study.nameOf(level.configuration)}, {"median", level.median}, {"passes", level.passes}});
    const auto& change = one.change;
    const bool has_interval = change && change->interval;
    all.push_back({{"case", study.cases[one.case_index].title()},
                   {"channel", one.channel},
                   {"unit", one.unit},
                   {"scale", change ? ordered_json(change->is_ratio ? "ratio" : "difference") : ordered_json()},
                   {"at", std::move(at)},
                   {"from", study.nameOf(one.pair.from)},
                   {"to", study.nameOf(one.pair.to)},
                   {"change", change ? ordered_json(change->value) : ordered_json()},
                   {"change_lo", has_interval ? ordered_json(change->interval->lo) : ordered_json()},
                   {"change_hi", has_interval ? ordered_json(change->interval->hi) : ordered_json()},
                   {"p", change ? orNull(change->p) : ordered_json()},
                   {"p_holm", change ? orNull(change->p_holm) : ordered_json()},
                   {"sentence", one.sentence}});
  }
  return all;
}

}  // namespace report
