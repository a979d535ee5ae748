#include "app/model/lever_model.h"

#include <algorithm>
#include <cmath>

#include "core/lever_axis.h"

namespace app {
namespace {

LeverRow suiteRow(const core::Study& study, const core::SuiteFinding& suite) {
  LeverRow row;
  row.title = QObject::tr("All %1 cases").arg(static_cast<int>(study.cases.size()));
  row.subtitle = QObject::tr("this suite, equal weight");
  row.change = toQt(core::changeText(suite.improvement));
  row.verdict = toQt(core::verdictText(suite.verdict, suite.marks));
  row.percent = suite.improvement.value;
  row.interval = suite.improvement.interval;
  row.is_counted = !suite.marks.any();
  return row;
}

LeverRow caseRow(const core::Study& study, const core::CaseFinding& finding) {
  const core::Case& a_case = study.cases[finding.case_index];
  LeverRow row;
  row.title = toQt(a_case.workload);
  row.subtitle = toQt(a_case.preset);
  if (a_case.metric.direction == core::Direction::LowerIsBetter) row.subtitle += QObject::tr(" · lower is better");
  row.case_index = finding.case_index;
  if (finding.difference) row.change = toQt(core::unitChangeText(*finding.difference, finding.metric.unit));
  if (!finding.why_no_effect.empty() || finding.difference) {
    row.verdict =
        toQt(finding.why_no_effect.empty() ? core::verdictText(finding.verdict, finding.marks) : finding.why_no_effect);
    return row;
  }
  row.change = toQt(core::changeText(finding.improvement));
  row.verdict = toQt(core::verdictText(finding.verdict, finding.marks));
  row.percent = finding.improvement.value;
  row.interval = finding.improvement.interval;
  row.spread_percent = finding.spread ? finding.spread->percent : 0;
  row.is_counted = !finding.marks.any();
  return row;
}

}  // namespace

LeverModel::LeverModel(const StudyModel& study, QObject* parent) : QAbstractListModel(parent), study_(study) {
  connect(&study, &StudyModel::changed, this, &LeverModel::refresh);
  if (study.hasStudy()) refresh();
}

void LeverModel::refresh() {
  beginResetModel();
  rows_.clear();
  const core::Findings& findings = study_.findings();
  for (const core::CaseFinding& finding : findings.cases) {
    rows_.push_back(caseRow(study_.study(), finding));
    if (const auto pin = study_.judgement().pins.find(finding.title); pin != study_.judgement().pins.end())
      rows_.back().remark = toQt(pin->second);
  }
  std::stable_sort(rows_.begin(), rows_.end(), [this](const LeverRow& a, const LeverRow& b) {
    if (a.remark.isEmpty() != b.remark.isEmpty()) return b.remark.isEmpty();
    if (sorted_ == Sorted::ByName) return a.title < b.title;
    if (sorted_ == Sorted::ByPreset && *a.case_index != *b.case_index) return presetPlace(a) < presetPlace(b);
    return a.percent.value_or(-INFINITY) > b.percent.value_or(-INFINITY);
  });
  if (findings.suite) rows_.insert(rows_.begin(), suiteRow(study_.study(), *findings.suite));
  fitAxis();
  endResetModel();
}

// Presets in the order in which the question names them.
std::size_t LeverModel::presetPlace(const LeverRow& row) const {
  const auto& cases = study_.study().cases;
  const std::string& preset = cases[*row.case_index].preset;
  return static_cast<std::size_t>(
      std::find_if(cases.begin(), cases.end(), [&](const core::Case& one) { return one.preset == preset; }) -
      cases.begin());
}

void LeverModel::setSorted(Sorted sorted) {
  sorted_ = sorted;
  refresh();
}

void LeverModel::fitAxis() {
  std::vector<core::LeverBeam> beams;
  for (const LeverRow& row : rows_)
    if (row.percent) beams.push_back({*row.percent, row.interval});
  const core::LeverAxis axis = core::leverAxisOf(beams, thresholdHigh());
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

double LeverModel::thresholdLow() const {
  return study_.hasStudy() ? core::lossBoundPercent(study_.study().notice_threshold_percent) : 0;
}
double LeverModel::thresholdHigh() const { return study_.hasStudy() ? study_.study().notice_threshold_percent : 0; }

QString LeverModel::legend() const {
  if (!study_.hasStudy()) return {};
  return tr("Right is better. Beam: estimate. Thick: %1 % interval. Hatched: below %2 %, too small to act on. Dotted: "
            "run-to-run spread.")
      .arg(100 * study_.study().intervalConfidence(), 0, 'g', 3)
      .arg(study_.study().notice_threshold_percent, 0, 'g', 3);
}

}  // namespace app
