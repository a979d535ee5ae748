#pragma once

#include <span>
#include <vector>

#include "core/record/record.h"

namespace core {

/// The captures of one visit.
struct VisitRecord {
  const Visit* visit = nullptr;
  const Capture* start = nullptr;
  const Capture* loaded = nullptr;
  const Capture* end = nullptr;
  /// A link is to be trusted under load only; everything else is the same there.
  [[nodiscard]] const Capture* best() const { return loaded ? loaded : start ? start : end; }
};

/// Of every visit that was captured; looks into both lists, which must outlive them.
[[nodiscard]] std::vector<VisitRecord> recordsOf(std::span<const Visit> visits, std::span<const VisitCapture> captures);

}  // namespace core
