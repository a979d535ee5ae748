#include "app/model/lever_model.h"

#include <algorithm>
#include <cmath>

#include "core/findings/lever_axis.h"
#include "core/findings/result_row.h"
#include "core/findings/thresholds.h"
#include "core/study/look_confidences.h"

namespace app {
namespace {

LeverRow shown(const core::ResultRow& row) {
  return {toQt(row.title), toQt(row.subtitle), toQt(row.remark),   toQt(row.change), toQt(row.verdict), row.percent,
          row.interval,    row.threshold,      row.spread_percent, row.is_counted,   row.case_index};
}

}  // namespace

LeverModel::LeverModel(const StudyModel& study, QObject* parent) : QAbstractListModel(parent), study_(study) {
  connect(&study, &StudyModel::changed, this, &LeverModel::refresh);
  if (study.hasStudy()) refresh();
}

void LeverModel::refresh() {
  beginResetModel();
  rows_.clear();
  const core::Findings& findings = study_.judgement().findings;
  for (const core::ResultRow& row : core::resultRows(study_.study(), findings, study_.judgement().pins))
    rows_.push_back(shown(row));
  // The rows come in the order of their effects; groups keep it within each.
  const auto cases = std::find_if(rows_.begin(), rows_.end(), [](const LeverRow& row) { return row.case_index; });
  std::stable_sort(cases, rows_.end(), [this](const LeverRow& a, const LeverRow& b) {
    if (a.remark.isEmpty() != b.remark.isEmpty()) return b.remark.isEmpty();
    return groupPlace(a) < groupPlace(b);
  });
  insertGroupRows();
  fitAxis();
  endResetModel();
}

const std::string& LeverModel::groupOf(const LeverRow& row) const {
  const core::Case& a_case = study_.study().cases[*row.case_index];
  return sorted_ == Sorted::ByPreset ? a_case.preset : a_case.workload;
}

// Groups come in the order in which the question names them.
std::size_t LeverModel::groupPlace(const LeverRow& row) const {
  if (sorted_ == Sorted::ByEffect) return 0;
  const std::string& group = groupOf(row);
  const auto& cases = study_.study().cases;
  return static_cast<std::size_t>(std::find_if(cases.begin(), cases.end(),
                                               [&](const core::Case& one) {
                                                 return (sorted_ == Sorted::ByPreset ? one.preset : one.workload) ==
                                                        group;
                                               }) -
                                  cases.begin());
}

void LeverModel::insertGroupRows() {
  const core::Findings& findings = study_.judgement().findings;
  if (sorted_ == Sorted::ByEffect || !findings.readings || !findings.suite) return;
  const auto& readings = sorted_ == Sorted::ByPreset ? findings.readings->presets : findings.readings->workloads;
  for (const core::SuiteReading& reading : readings) {
    const auto first = std::find_if(rows_.begin(), rows_.end(), [&](const LeverRow& row) {
      return row.case_index && row.remark.isEmpty() && groupOf(row) == reading.name;
    });
    if (first != rows_.end()) rows_.insert(first, shown(core::readingRow(reading, *findings.suite)));
  }
}

void LeverModel::setSorted(Sorted sorted) {
  sorted_ = sorted;
  refresh();
}

void LeverModel::fitAxis() {
  std::vector<core::LeverBeam> beams;
  for (const LeverRow& row : rows_)
    if (row.percent) beams.push_back({*row.percent, row.interval, row.threshold->gain_percent});
  const core::LeverAxis axis = core::leverAxisOf(beams);
  axis_low_ = axis.low;
  axis_high_ = axis.high;
  axis_step_ = axis.step;
}

int LeverModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

QVariant LeverModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid() || index.row() >= rowCount()) return {};
  const LeverRow& row = rows_[static_cast<std::size_t>(index.row())];
  switch (role) {
    case Qt::DisplayRole: return row.title;
    case Qt::AccessibleTextRole:
      return QStringLiteral("%1, %2: %3, %4").arg(row.title, row.subtitle, row.change, row.verdict);
    case RowRole: return QVariant::fromValue(row);
    default: return {};
  }
}

int LeverModel::rowOfCase(std::size_t case_index) const {
  for (std::size_t i = 0; i < rows_.size(); ++i)
    if (rows_[i].case_index == case_index) return static_cast<int>(i);
  return -1;
}

QString LeverModel::legend() const {
  if (!study_.hasStudy()) return {};
  return tr("Right is better. Beam: estimate. Thick: %1 interval. Hatched: below %2, too small to act on. Dotted: "
            "run-to-run spread.")
      .arg(toQt(core::confidenceText(study_.judgement().findings.confidence)))
      .arg(toQt(core::askedThresholdText(study_.study())));
}

}  // namespace app
