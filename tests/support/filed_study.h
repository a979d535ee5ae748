// A whole study in a file, as if it had been measured at some time: without a bench.
#pragma once

#include "store/study/study_file.h"
#include "support/recorded_study.h"

namespace support {

/// Files what is recorded; passes begin at `at_ms`, a minute after each other. Each visit is captured, with that
/// kernel.
inline core::Status fileStudy(const std::string& path, const RecordedStudy& recorded, std::int64_t at_ms,
                              const std::string& kernel = "6.12.48-corvane") {
  constexpr std::int64_t kMinute_ms = 60'000;
  auto file = store::StudyFile::create(path, recorded.study);
  if (!file) return file.error();
  std::int64_t now = at_ms;
  for (const core::Visit& planned : recorded.visits) {
    core::Visit visit = planned;
    visit.started_ms = now;
    const auto filed = file->addVisit(visit);
    if (!filed) return filed.error();
    core::Capture capture;
    capture.taken_ms = now;
    capture.boot_id = visit.boot_id;
    core::Fact fact;
    fact.name = "os/kernel";
    fact.value = kernel;
    capture.facts = {fact};
    for (const core::CaptureMoment moment : {core::CaptureMoment::Start, core::CaptureMoment::End})
      if (auto added = file->addCapture({filed->id, moment, capture}); !added) return added;
    for (core::Pass pass : recorded.passes) {
      if (pass.visit_id != planned.id) continue;
      pass.visit_id = filed->id;
      pass.started_ms = now += kMinute_ms;
      pass.duration_s = 50;
      if (auto added = file->addPass(pass, {}); !added) return added.error();
    }
  }
  return core::Done{};
}

}  // namespace support
