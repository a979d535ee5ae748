#include "report/json/value_json.h"

#include "report/json/or_null.h"

namespace report {

using nlohmann::ordered_json;

ordered_json valueJson(const core::Study& study, const std::vector<core::Value>& values) {
  ordered_json all = ordered_json::array();
  for (const core::Value& one : values) {
    const auto& interval = one.paid_for_interval;
    all.push_back({{"from", study.nameOf(one.pair.from)},
                   {"to", study.nameOf(one.pair.to)},
                   {"extra_price", one.extra_price},
                   {"currency", one.currency},
                   {"percent_for_each_100", orNull(one.percent_for_each_100)},
                   {"paid_for_up_to", orNull(one.paid_for_up_to)},
                   {"paid_for_up_to_lo", interval ? ordered_json(interval->first) : ordered_json()},
                   {"paid_for_up_to_hi", interval ? ordered_json(interval->second) : ordered_json()}});
  }
  return all;
}

}  // namespace report
