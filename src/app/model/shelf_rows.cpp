#include "app/model/shelf_rows.h"

#include <algorithm>

namespace app {
namespace {

std::vector<core::ShelfItem> usedBefore(const StudyModel& study) {
  std::vector<core::ShelfItem> items;
  const std::string bench = study.session().machine().registeredName();
  const auto cases = study.benches().workloads(bench);
  const auto noise = study.benches().noise(bench);
  if (!cases) return items;
  for (const core::Case& one : *cases) {
    core::ShelfItem item;
    item.a_case = one;
    if (noise)
      for (const store::BenchRegister::Noise& known : *noise)
        if (known.measured.title == one.title() && known.measured.noise.pass_sd)
          item.about = tr("passes differ by %1 %").arg(100 * *known.measured.noise.pass_sd, 0, 'f', 2).toStdString();
    items.push_back(std::move(item));
  }
  return items;
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
  return rows;
}

}  // namespace app
