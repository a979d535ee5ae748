#include "core/proof/visit_records.h"

#include <map>

namespace core {

std::vector<VisitRecord> recordsOf(std::span<const Visit> visits, std::span<const VisitCapture> captures) {
  std::map<std::int64_t, VisitRecord> by_visit;
  for (const Visit& visit : visits) by_visit[visit.id].visit = &visit;
  for (const VisitCapture& one : captures) {
    const auto found = by_visit.find(one.visit_id);
    if (found == by_visit.end()) continue;
    switch (one.moment) {
      case CaptureMoment::Start: found->second.start = &one.capture; break;
      case CaptureMoment::UnderLoad: found->second.loaded = &one.capture; break;
      case CaptureMoment::End: found->second.end = &one.capture; break;
    }
  }
  std::vector<VisitRecord> records;
  for (const auto& [id, record] : by_visit)
    if (record.best()) records.push_back(record);
  return records;
}

}  // namespace core
