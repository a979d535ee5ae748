#include "session/study/flip_under_way.h"

namespace session {

std::optional<FlipUnderWay> flipUnderWay(const store::Recorded& recorded) {
  const std::int64_t since_ms = recorded.visits.empty() ? 0 : recorded.visits.back().started_ms;
  std::optional<FlipUnderWay> flip;
  for (const store::Event& event : recorded.events) {
    if (event.at_ms < since_ms) continue;
    if (const auto* begun = std::get_if<core::FlipBegun>(&event.act)) {
      if (!flip || flip->visit != begun->visit) flip = FlipUnderWay{begun->visit, {}, {}};
      flip->boot_id = begun->boot_id;
    }
    if (const auto* setting = std::get_if<core::SettingBegun>(&event.act);
        setting != nullptr && flip && setting->visit == flip->visit)
      flip->settings.push_back(setting->variable);
  }
  return flip && !flip->boot_id.empty() ? flip : std::nullopt;
}

}  // namespace session
