#include "session/sheet/visit_captures.h"

#include <algorithm>

#include "bench/capture.h"
#include "bench/vulkan_drivers.h"

namespace session {

bool VisitCaptures::has(std::int64_t visit_id, core::CaptureMoment moment) const {
  const auto& captures = open_.recorded().captures;
  return std::any_of(captures.begin(), captures.end(),
                     [&](const core::VisitCapture& one) { return one.visit_id == visit_id && one.moment == moment; });
}

void VisitCaptures::take(core::CaptureMoment moment, const Then& then) {
  const std::int64_t visit_id = open_.visit()->id;
  if (has(visit_id, moment) || !core::isBenchHere(open_.study())) return then(core::Done{});
  background_.run<core::Capture>(capturing(moment), [this, visit_id, moment, then](const core::Capture& capture) {
    then(is_open_ ? file(visit_id, moment, capture) : core::Status(core::Done{}));
  });
}

void VisitCaptures::look(const std::function<void(const core::Capture&)>& then) {
  background_.run<core::Capture>(capturing(core::CaptureMoment::UnderLoad), then);
}

core::Status VisitCaptures::file(std::int64_t visit_id, core::CaptureMoment moment, core::Capture capture) {
  if (has(visit_id, moment)) return core::Done{};
  capture.taken_ms += machine_.clockAheadMs();
  for (core::Fact& fact : store::statedFactsOf(open_.recorded())) capture.put(std::move(fact));
  for (const core::Fact& fact : graphicsDrivers(visit_id, moment)) capture.put(fact);
  if (auto filed = open_.addCapture({visit_id, moment, capture}); !filed) return filed;
  // The register repeats what the study holds: one that cannot be written holds nothing up.
  if (moment == core::CaptureMoment::Start) (void)benches_.add(machine_.registeredName(), capture);
  return core::Done{};
}

// A driver stays what it is within a visit, and asking it beside a pass would disturb the pass: the end repeats what
// the start read, also where the program was started again in between.
std::vector<core::Fact> VisitCaptures::graphicsDrivers(std::int64_t visit_id, core::CaptureMoment moment) const {
  if (machine_.standIn() || moment == core::CaptureMoment::Start) return {};
  std::vector<core::Fact> drivers;
  for (const core::VisitCapture& one : open_.recorded().captures)
    if (one.visit_id == visit_id && one.moment == core::CaptureMoment::Start)
      for (const core::Fact& fact : one.capture.below("graphics/"))
        if (fact.name.ends_with("/vulkan_driver")) drivers.push_back(fact);
  return drivers;
}

// By value whatever it touches: it runs in another thread.
std::function<core::Capture()> VisitCaptures::capturing(core::CaptureMoment moment) const {
  return [&own = machine_.own(), stand_in = machine_.standIn(), root_facts = root_facts_, moment,
          end = background_.end()] {
    bench::BenchConnection& machine = stand_in ? *stand_in : own;
    const auto with_root = bench::WithRootFacts::open(machine, root_facts);
    core::Capture capture = with_root ? bench::captureBench(*with_root, end) : bench::captureBench(machine, end);
    if (!stand_in && moment == core::CaptureMoment::Start)
      for (const core::Fact& fact : bench::vulkanDriverFacts()) capture.put(fact);
    return capture;
  };
}

}  // namespace session
