#include "report/json/slot_json.h"

#include <fmt/format.h>

namespace report {

nlohmann::ordered_json slotJson(const core::Study& study, std::span<const core::Slot> schedule,
                                std::optional<std::size_t> slot) {
  if (!slot) return nullptr;
  const core::Slot& one = schedule[*slot];
  return {{"visit", one.visit},
          {"round", one.round},
          {"level", study.nameOf(one.configuration)},
          {"case", study.cases[one.case_index].title()},
          {"is_warm_up", one.is_warm_up},
          {"number", one.number}};
}

std::string slotText(const core::Study& study, const core::Slot& slot) {
  return fmt::format("visit {}, {} {} of {} at {}", slot.visit, slot.is_warm_up ? "warm-up" : "pass", slot.number,
                     study.cases[slot.case_index].title(), study.nameOf(slot.configuration));
}

}  // namespace report
