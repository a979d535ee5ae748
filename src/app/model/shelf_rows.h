#pragma once

#include <QString>
#include <vector>

#include "app/model/study_model.h"
#include "core/study/shelf.h"

namespace app {

/// A workload that is at hand, with where it comes from: "ships with the program".
struct ShelfRow {
  core::ShelfItem item;
  QString from;
  QString repeatable = {};  ///< how it did on the open study's bench, as a sentence; empty where it did not run there
};

/// What ships with the program, what was used on the open study's bench before, and `installed` programs, each with how
/// repeatable it was there. Each title once: the first of these counts.
[[nodiscard]] std::vector<ShelfRow> shelfRows(const StudyModel& study, const std::vector<core::ShelfItem>& installed);

}  // namespace app
