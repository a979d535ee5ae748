#include "report/observed_part.h"

namespace report {

void writeObserved(Html& page, const Source& source) {
  if (source.record.observations.empty()) return;
  page.heading("What else was noticed");
  std::vector<std::string> items;
  for (const core::Observation& one : source.record.observations) items.push_back(one.text);
  page.list(items);
}

}  // namespace report
