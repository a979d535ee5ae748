#include "session/sheet/bench_memory.h"

#include <QDateTime>
#include <algorithm>

#include "core/findings/repeatability.h"
#include "core/record/pair_visits.h"

namespace session {
namespace {

// A case that somebody plays is as steady as its player: it has their name on the bench.
std::string nameOnBench(const std::string& title, const core::Study& study, const std::string& person) {
  for (const core::Case& one : study.cases)
    if (one.title() == title) return core::noiseTitle(one, person);
  return title;
}

}  // namespace

void BenchMemory::takeNullStudy() {
  if (open_.study().is_null || open_.study().plan.order != core::Order::Blocked || !open_.recorded().visits.empty())
    return;
  const auto known = benches_.noise(machine_.registeredName());
  if (!known) return;
  core::NullRecord record;
  std::int64_t latest_ms = 0;
  for (const store::BenchRegister::Noise& one : *known) {
    bool is_of_this_flip = false;  // another swap, or another program under the same name, has a noise of its own
    for (std::size_t i = 0; i < open_.study().cases.size(); ++i)
      is_of_this_flip = is_of_this_flip || core::isOfTheSameFlip(one.measured, open_.study(), i);
    if (!is_of_this_flip || !one.measured.noise.isUsable() || one.measured.visits.empty()) continue;
    latest_ms = std::max(latest_ms, one.at_ms);
    record.cases.push_back({one.measured.title, one.measured.visits});
  }
  if (record.cases.empty()) return;
  record.date = QDateTime::fromMSecsSinceEpoch(latest_ms).toString(QStringLiteral("yyyy-MM-dd")).toStdString();
  const auto& events = open_.recorded().events;  // once, unless a newer one has come
  const bool is_known = std::any_of(events.begin(), events.end(), [&](const store::Event& event) {
    const auto* taken = std::get_if<core::NullStudyTaken>(&event.act);
    return taken != nullptr && taken->record == record;
  });
  if (!is_known) (void)open_.note(core::NullStudyTaken{std::move(record)});
}

void BenchMemory::rememberLevels() {
  const core::Study& study = open_.study();
  for (const core::Variable& variable : study.variables) {
    if (variable.kind.empty()) continue;
    for (const core::Level& level : variable.levels) {
      if (!level.menu_path.empty()) (void)benches_.setMenuPath(study.bench, variable.kind, level.name, level.menu_path);
      if (!level.checklist.empty())
        (void)benches_.setChecklist(study.bench, variable.kind, level.name, level.checklist);
    }
  }
}

void BenchMemory::rememberWorkloads() {
  rememberLevels();
  (void)benches_.addWorkloads(machine_.registeredName(), open_.study().cases, open_.now());
}

void BenchMemory::rememberPasses() {
  rememberNoise();
  background_.run<core::Status>(
      [benches = benches_, bench = machine_.registeredName(), path = open_.absolutePath(), person = open_.person(),
       study = open_.study(), recorded = open_.recorded()]() mutable {
        core::Record record = store::recordOf(recorded);
        const std::vector<core::Visit> own = core::ownVisits(record.visits);
        record.visits = own;
        auto repeatable = core::repeatabilityOf(study, record);
        for (core::CaseRepeatability& one : repeatable) one.title = nameOnBench(one.title, study, person);
        return benches.setRepeatability(bench, path, repeatable);
      },
      [](const core::Status&) {});  // it repeats what the study holds
}

void BenchMemory::rememberNoise() {
  if (open_.study().is_null && open_.nextSlot()) return;
  const std::vector<core::Visit> own = core::ownVisits(open_.recorded().visits);  // the rest was remembered before
  const auto& passes = open_.recorded().passes;
  auto noise =
      open_.study().is_null ? core::noiseOf(open_.study(), own, passes) : core::pilotOf(open_.study(), own, passes);
  for (core::CaseNoise& one : noise) one.title = nameOnBench(one.title, open_.study(), open_.person());
  if (!noise.empty()) (void)benches_.addNoise(machine_.registeredName(), noise, open_.now());
}

}  // namespace session
