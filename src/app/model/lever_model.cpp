#include "app/model/lever_model.h"

#include <algorithm>
#include <cmath>

#include "core/lever_axis.h"

namespace app {
namespace {

LeverRow summedRow(const QString& title, const QString& subtitle, const core::PercentChange& improvement,
                   core::Verdict verdict, const core::Marks& marks) {
  LeverRow row;
  row.title = title;
  row.subtitle = subtitle;
  row.change = toQt(core::changeText(improvement));
  row.verdict = toQt(core::verdictText(verdict, marks));
  row.percent = improvement.value;
  row.interval = improvement.interval;
  row.is_counted = !marks.any();
  return row;
}

LeverRow suiteRow(const core::Study& study, const core::SuiteFinding& suite) {
  return summedRow(QObject::tr("All %1 cases").arg(static_cast<int>(study.cases.size())),
                   QObject::tr("this suite, equal weight"), suite.improvement, suite.verdict, suite.marks);
}

// A part of the suite has the marks of the whole.
LeverRow groupRow(const core::SuiteReading& reading, const core::SuiteFinding& suite) {
  return summedRow(toQt(reading.name),
                   reading.cases == 1 ? QObject::tr("1 case") : QObject::tr("%1 cases").arg(reading.cases),
                   reading.improvement, reading.verdict, suite.marks);
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
    const std::size_t place_a = groupPlace(a);
    const std::size_t place_b = groupPlace(b);
    if (place_a != place_b) return place_a < place_b;
    return a.percent.value_or(-INFINITY) > b.percent.value_or(-INFINITY);
  });
  insertGroupRows();
  if (findings.suite) rows_.insert(rows_.begin(), suiteRow(study_.study(), *findings.suite));
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
  const core::Findings& findings = study_.findings();
  if (sorted_ == Sorted::ByEffect || !findings.readings || !findings.suite) return;
  const auto& readings = sorted_ == Sorted::ByPreset ? findings.readings->presets : findings.readings->workloads;
  for (const core::SuiteReading& reading : readings) {
    const auto first = std::find_if(rows_.begin(), rows_.end(), [&](const LeverRow& row) {
      return row.case_index && row.remark.isEmpty() && groupOf(row) == reading.name;
    });
    if (first != rows_.end()) rows_.insert(first, groupRow(reading, *findings.suite));
  }
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
