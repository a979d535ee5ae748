#include "session/machine.h"

#include "bench/local_bench.h"

namespace session {

void Machine::takeDesign() {
  stand_in_ = open_.study().machine.empty() ? nullptr : std::make_shared<bench::LocalBench>(root());
}

// A folder elsewhere stands for the bench only once somebody has approved it; until then there is none.
std::string Machine::root() const {
  if (open_.study().machine.empty()) return "";
  const StudyPath place = studyPath(open_.study().machine, open_.folder());
  return mayRead(place) ? place.full : "/nonexistent";
}

bool Machine::awaitsApproval() const { return stand_in_ && !mayRead(studyPath(open_.study().machine, open_.folder())); }

std::string Machine::boot() const { return core::isBenchHere(open_.study()) ? bench::bootId(bench()) : std::string(); }

core::Status Machine::approve() {
  if (auto approved = approvals_.approve(acts()); !approved) return approved;
  takeDesign();  // a folder that stands for the bench may be looked at from now on
  return core::Done{};
}

bool Machine::mayRead(const StudyPath& path) const {
  return path.is_below || approvals_.missing({readingOf(path, open_.folder())}).empty();
}

}  // namespace session
