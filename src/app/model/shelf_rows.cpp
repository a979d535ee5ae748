#include "app/model/shelf_rows.h"

#include <algorithm>

namespace app {
namespace {

std::vector<core::ShelfItem> usedBefore(const StudyModel& study) {
  std::vector<core::ShelfItem> items;
  const auto cases = study.benches().workloads(study.session().machine().registeredName());
  if (!cases) return items;
  for (const core::Case& one : *cases) {
    core::ShelfItem item;
    item.a_case = one;
    items.push_back(std::move(item));
  }
  return items;
}

// A case that somebody plays is as repeatable as its player: theirs is said with it.
void addRepeatability(std::vector<ShelfRow>& rows, const StudyModel& study) {
  const auto known = study.benches().repeatability(study.session().machine().registeredName());
  if (!known) return;
  for (const core::BenchRepeatability& one : core::pooledRepeatability(*known))
    for (ShelfRow& row : rows) {
      if (core::noiseTitle(row.item.a_case, study.session().open().person()) != one.title) continue;
      row.repeatable = tr("On this bench: %1").arg(toQt(one.text()));
    }
}

}  // namespace

std::vector<ShelfRow> shelfRows(const StudyModel& study, const std::vector<core::ShelfItem>& installed) {
  std::vector<ShelfRow> rows;
  const auto put = [&](const core::ShelfItem& item, const QString& from) {
    const bool is_there = std::any_of(
        rows.begin(), rows.end(), [&](const ShelfRow& row) { return row.item.a_case.title() == item.a_case.title(); });
    if (!is_there) rows.push_back({item, from});
  };
  for (const core::ShelfItem& item : core::shippedWorkloads()) put(item, tr("ships with the program"));
  if (study.hasStudy())
    for (const core::ShelfItem& item : usedBefore(study)) put(item, tr("used on this bench before"));
  for (const core::ShelfItem& item : installed) put(item, tr("installed here"));
  if (study.hasStudy()) addRepeatability(rows, study);
  return rows;
}

}  // namespace app
