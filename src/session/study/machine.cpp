#include "session/study/machine.h"

#include <cmath>

#include "bench/local_bench.h"
#include "core/values/number_text.h"

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

std::string Machine::boot() const {
  if (core::isBenchHere(open_.study())) return bench::bootId(bench());
  // Of a bench over ssh as its last visit told: what is typed here belongs to the visit that was begun there.
  const core::Visit* last = open_.study().ssh_name.empty() ? nullptr : open_.visit();
  return last ? last->boot_id : std::string();
}

std::int64_t Machine::clockAheadMs() const {
  if (!stand_in_) return 0;
  constexpr double kMost = 1e13;  // three hundred years: more is no clock
  const auto told = stand_in_->readFile("/clock_ahead_ms");
  const auto ahead_ms = told ? core::numberOf(*told) : std::nullopt;
  return ahead_ms && std::abs(*ahead_ms) < kMost ? static_cast<std::int64_t>(*ahead_ms) : 0;
}

core::Status Machine::approve() {
  if (auto approved = approvals_.approve(acts()); !approved) return approved;
  takeDesign();  // a folder that stands for the bench may be looked at from now on
  return core::Done{};
}

bool Machine::mayRead(const StudyPath& path) const {
  return path.is_below || approvals_.missing({readingOf(path, open_.folder())}).empty();
}

core::Status Machine::findPrograms() const {
  std::vector<core::Command> started{open_.study().measure_command, open_.study().stability_command};
  for (const core::ExactCommand& exact : core::commandsOf(open_.study())) started.push_back(exact.command);
  for (const core::Case& a_case : open_.study().cases) {  // behind a prefix the program is not the first word
    if (a_case.source == core::ResultSource::ByHand) continue;
    started.push_back(a_case.command);
    started.push_back(a_case.companion.command);
  }
  for (const core::Command& command : started)
    if (!command.empty())
      if (const auto program = own_.findProgram(command.front(), open_.folder()); !program) return program.error();
  return core::Done{};
}

}  // namespace session
