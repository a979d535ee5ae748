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
};

/// What ships with the program, what was used on the open study's bench before with the noise that was measured of it,
/// and `installed` programs. Each title once: the first of these counts.
[[nodiscard]] std::vector<ShelfRow> shelfRows(const StudyModel& study, const std::vector<core::ShelfItem>& installed);

}  // namespace app
