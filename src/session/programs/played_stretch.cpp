#include "session/programs/played_stretch.h"

#include <algorithm>

namespace session {

void PlayedStretch::ready(double at_s, double lead_in_s, double length_s) {
  if (begins_s_) return;
  begins_s_ = at_s + lead_in_s;
  ends_s_ = *begins_s_ + length_s;
}

void PlayedStretch::end(double at_s) {
  if (phase(at_s) == Phase::Counting) ends_s_ = at_s;
}

void PlayedStretch::observe(double at_s, double logged_s) {
  if (logged_s > 0) log_ahead_s_ = std::max(log_ahead_s_.value_or(logged_s - at_s), logged_s - at_s);
}

PlayedStretch::Phase PlayedStretch::phase(double at_s) const {
  if (!begins_s_) return Phase::Waiting;
  if (at_s < *begins_s_) return Phase::LeadIn;
  return at_s < ends_s_ ? Phase::Counting : Phase::Over;
}

double PlayedStretch::secondsLeft(double at_s) const {
  if (!begins_s_) return 0;
  return std::max(0.0, (at_s < *begins_s_ ? *begins_s_ : ends_s_) - at_s);
}

std::optional<LogStretch> PlayedStretch::stretch(double at_s) const {
  if (phase(at_s) != Phase::Over) return std::nullopt;
  const double ahead_s = log_ahead_s_.value_or(0);
  return LogStretch{std::max(0.0, *begins_s_ + ahead_s), ends_s_ + ahead_s};
}

std::optional<LogStretch> PlayedStretch::played(double at_s) const {
  if (phase(at_s) != Phase::Over) return std::nullopt;
  return LogStretch{*begins_s_, ends_s_};
}

}  // namespace session
