#include "app/question/results_table.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <array>

#include <fmt/format.h>

#include "app/model/qt_text.h"
#include "app/shell/usable.h"
#include "core/values/number_text.h"

namespace app {
namespace {

enum Column {
  NameColumn,
  FromColumn,
  PlaceColumn,
  FileColumn,
  UnitColumn,
  BetterColumn,
  DividedColumn,
  ControlColumn,
  ColumnCount
};

/// Where a result may stand, as the column offers it: its source, and whether a pattern leads to it.
struct Origin {
  core::ResultSource source;
  bool has_pattern;
};
constexpr std::array kOrigins{Origin{core::ResultSource::JsonField, false}, Origin{core::ResultSource::Pattern, true},
                              Origin{core::ResultSource::File, false}, Origin{core::ResultSource::File, true}};

int originOf(const core::CaseResult& result) {
  for (std::size_t i = 0; i < kOrigins.size(); ++i)
    if (kOrigins[i].source == result.source && kOrigins[i].has_pattern == !result.pattern.empty())
      return static_cast<int>(i);
  return 0;
}

}  // namespace

ResultsTable::ResultsTable(const core::Case& a_case, QWidget* parent)
    : QWidget(parent),
      is_typed_(a_case.source == core::ResultSource::ByHand),
      table_(new QTableWidget(0, ColumnCount, this)),
      take_out_(new QPushButton(tr("Take out"), this)) {
  table_->setObjectName(QStringLiteral("resultsTable"));
  table_->setAccessibleName(tr("results beside the headline"));
  table_->setHorizontalHeaderLabels({tr("result"), tr("from"), tr("field or pattern"), tr("file"), tr("unit"),
                                     tr("better"), tr("divided by"), tr("should respond")});
  table_->horizontalHeaderItem(PlaceColumn)
      ->setToolTip(tr("Names joined by dots; or a regular expression whose first group is the number"));
  table_->horizontalHeaderItem(FileColumn)
      ->setToolTip(tr("Seen from the study's folder, and written anew by each pass"));
  table_->verticalHeader()->hide();
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->setMinimumHeight(110);
  for (const auto& [column, width] :
       {std::pair{0, 120}, {1, 160}, {2, 180}, {3, 100}, {4, 60}, {5, 90}, {6, 80}, {7, 100}})
    table_->setColumnWidth(column, width);
  for (const int column : {int{FromColumn}, int{PlaceColumn}, int{FileColumn}})
    table_->setColumnHidden(column, is_typed_);
  auto* add_one = new QPushButton(tr("Add a result"), this);
  add_one->setObjectName(QStringLiteral("addResultButton"));
  take_out_->setObjectName(QStringLiteral("takeOutResultButton"));
  auto* buttons = new QHBoxLayout;
  buttons->addWidget(add_one);
  buttons->addWidget(take_out_);
  buttons->addStretch(1);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(table_);
  layout->addLayout(buttons);
  for (const core::CaseResult& one : a_case.further) add(one);
  connect(add_one, &QPushButton::clicked, this, [this] {
    core::CaseResult fresh;
    fresh.source = is_typed_ ? core::ResultSource::ByHand : core::ResultSource::JsonField;
    fresh.field.clear();
    fresh.metric = {"", "points"};
    add(fresh);
    table_->setCurrentCell(table_->rowCount() - 1, NameColumn);
    table_->editItem(table_->currentItem());
  });
  connect(take_out_, &QPushButton::clicked, this, &ResultsTable::takeOut);
  const auto showUse = [this] {
    setUsable(*take_out_, table_->currentRow() >= 0 ? QString() : tr("Choose a result first"));
  };
  connect(table_, &QTableWidget::currentCellChanged, this, showUse);
  showUse();
}

void ResultsTable::add(const core::CaseResult& result) {
  const int row = table_->rowCount();
  table_->insertRow(row);
  given_.push_back(result);
  const auto put = [&](int column, const QString& text) { table_->setItem(row, column, new QTableWidgetItem(text)); };
  put(NameColumn, toQt(result.name));
  put(PlaceColumn, toQt(result.pattern.empty() ? result.field : result.pattern));
  put(FileColumn, toQt(result.path));
  put(UnitColumn, toQt(result.metric.unit));
  put(DividedColumn, toQt(fmt::format("{:g}", result.divide_by)));
  auto* control = new QTableWidgetItem;
  control->setFlags(Qt::ItemIsUserCheckable | Qt::ItemIsEnabled | Qt::ItemIsSelectable);
  control->setCheckState(result.is_control ? Qt::Unchecked : Qt::Checked);
  table_->setItem(row, ControlColumn, control);
  auto* from = new QComboBox(table_);
  from->setAccessibleName(tr("where the result stands"));
  from->addItems({tr("the output's JSON"), tr("behind a pattern"), tr("a file's JSON"), tr("a file, by pattern")});
  from->setCurrentIndex(originOf(result));
  table_->setCellWidget(row, FromColumn, from);
  auto* better = new QComboBox(table_);
  better->setAccessibleName(tr("which is better"));
  better->addItems({tr("higher"), tr("lower")});
  better->setCurrentIndex(result.metric.direction == core::Direction::HigherIsBetter ? 0 : 1);
  table_->setCellWidget(row, BetterColumn, better);
}

void ResultsTable::takeOut() {
  const int row = table_->currentRow();
  if (row < 0) return;
  given_.erase(given_.begin() + row);
  table_->removeRow(row);
}

QString ResultsTable::textIn(int row, int column) const { return table_->item(row, column)->text().trimmed(); }

core::CaseResult ResultsTable::resultIn(int row) const {
  core::CaseResult result = given_[static_cast<std::size_t>(row)];
  result.name = textIn(row, NameColumn).toStdString();
  result.metric.name = result.name;
  result.metric.unit = textIn(row, UnitColumn).toStdString();
  result.metric.direction = qobject_cast<QComboBox*>(table_->cellWidget(row, BetterColumn))->currentIndex() == 0
                                ? core::Direction::HigherIsBetter
                                : core::Direction::LowerIsBetter;
  result.is_control = table_->item(row, ControlColumn)->checkState() == Qt::Unchecked;
  result.divide_by = core::numberTyped(textIn(row, DividedColumn).toStdString()).value_or(0);  // a problem, and said so
  if (is_typed_) return result;
  const Origin& origin = kOrigins.at(
      static_cast<std::size_t>(qobject_cast<QComboBox*>(table_->cellWidget(row, FromColumn))->currentIndex()));
  const std::string place = textIn(row, PlaceColumn).toStdString();
  result.source = origin.source;
  result.pattern = origin.has_pattern ? place : std::string();
  result.field = origin.has_pattern ? core::CaseResult().field : place;
  result.path = origin.source == core::ResultSource::File ? textIn(row, FileColumn).toStdString() : std::string();
  return result;
}

std::vector<core::CaseResult> ResultsTable::results() const {
  std::vector<core::CaseResult> all;
  for (int row = 0; row < table_->rowCount(); ++row)
    if (core::CaseResult one = resultIn(row); !one.name.empty()) all.push_back(std::move(one));
  return all;
}

}  // namespace app
