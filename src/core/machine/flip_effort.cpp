#include "core/machine/variable_kind.h"

namespace core {

bool needsHands(const VariableKind& kind) { return kind.id != "other" && usualFlipMinutes(kind) >= 1; }

double usualFlipMinutes(const VariableKind& kind) {
  constexpr double kPart = 30;
  constexpr double kRestart = 5;
  constexpr double kSwap = 10;
  constexpr double kSetting = 0.1;
  if (kind.is_whole) return kPart;
  if (kind.needs_reboot || kind.restarts_by_hand) return kRestart;
  return kind.writes.empty() ? kSwap : kSetting;
}

}  // namespace core
