#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "core/fact.h"
#include "core/level_measurement.h"
#include "core/pass.h"
#include "core/unreachable.h"

namespace core {

/// The machine as a visit found it.
struct VisitCapture {
  std::int64_t visit_id = 0;
  CaptureMoment moment = CaptureMoment::Start;
  Capture capture;
};

/// A doubt's id, and the reason with which a person took it upon themselves.
using Acceptance = std::pair<std::string, std::string>;

/// Everything recorded in a study that a judgement rests on. The spans are whoever's who made it.
struct Record {
  std::span<const Visit> visits;
  std::span<const Pass> passes;
  std::span<const VisitCapture> captures;
  std::span<const VisitMeasurement> measurements;
  std::vector<Acceptance> acceptances;
  std::vector<Unreachable> unreachable;
  std::string opened_early;  ///< why the results were opened before the plan was complete; empty where they were not
};

}  // namespace core
