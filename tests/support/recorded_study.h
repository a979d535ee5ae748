// A study with everything recorded in it, without a bench and without a file.
#pragma once

#include <cmath>
#include <functional>
#include <optional>
#include <vector>

#include "core/judgement/judgement.h"
#include "core/study/schedule.h"
#include "support/studies.h"

namespace support {

struct RecordedStudy {
  core::Study study;
  core::Record also = {};  ///< what a record holds besides visits and passes
  std::vector<core::Visit> visits = {};
  std::vector<core::Pass> passes = {};

  /// Files a pass for each slot of the plan; `fill` gives it its value and whatever else. Without a value it failed.
  void record(const std::function<void(core::Pass&, const core::Slot&)>& fill) {
    visits.clear();
    passes.clear();
    const auto schedule = core::scheduleOf(study);
    for (std::size_t i = 0; i < schedule.size(); ++i) {
      const core::Slot& slot = schedule[i];
      if (visits.empty() || visits.back().planned != slot.visit)
        visits.push_back({static_cast<std::int64_t>(visits.size()) + 1, slot.visit, slot.round, slot.configuration,
                          "boot " + std::to_string(slot.visit), 0});
      core::Pass pass;
      pass.id = static_cast<std::int64_t>(i) + 1;
      pass.visit_id = visits.back().id;
      pass.slot = i;
      fill(pass, slot);
      if (!pass.value) pass.status = core::PassStatus::Failed;
      passes.push_back(std::move(pass));
    }
  }
  /// The same with a frame rate of each configuration; passes differ a little, alike in all of them.
  void recordRates(const std::vector<double>& rates, double spread = 0.002) {
    record([&](core::Pass& pass, const core::Slot& slot) {
      const double wobble = std::sin(1.7 * slot.visit + 0.9 * slot.number + static_cast<double>(slot.case_index));
      pass.value = rates[core::placeOf(slot.configuration)] * std::exp(spread * wobble);
    });
  }
  [[nodiscard]] core::Record recorded() const {
    core::Record record = also;
    record.visits = visits;
    record.passes = passes;
    return record;
  }
  [[nodiscard]] core::Findings findings() const { return core::findingsOf(study, recorded()); }
  [[nodiscard]] core::Judgement judged() const { return core::judgementOf(study, recorded()); }
};

}  // namespace support
