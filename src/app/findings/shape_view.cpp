#include "app/findings/shape_view.h"

#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/findings/svg_picture.h"
#include "app/shell/theme.h"
#include "core/findings/contrast_rows.h"
#include "report/shape_svg.h"

namespace app {
namespace {

constexpr int kLine = 24;  // pixels: a row of one line

enum Column { ContrastColumn, ChangeColumn, RemarkColumn, VerdictColumn, ColumnCount };

}  // namespace

ShapeView::ShapeView(const StudyModel& study, QWidget* parent)
    : QWidget(parent),
      study_(study),
      sentence_(new QLabel(this)),
      picture_(new SvgPicture(this)),
      table_(new QTableWidget(0, ColumnCount, this)) {
  setObjectName(QStringLiteral("shapeView"));
  sentence_->setObjectName(QStringLiteral("shapeSentence"));
  sentence_->setWordWrap(true);
  picture_->setObjectName(QStringLiteral("shapePicture"));
  picture_->setAccessibleName(tr("Picture of the study's shape"));
  table_->setObjectName(QStringLiteral("contrastTable"));
  table_->setAccessibleName(tr("Contrasts that the study asks"));
  table_->setHorizontalHeaderLabels({tr("comparison"), tr("improvement"), tr("resource, what arrives"), tr("verdict")});
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(kLine);
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setShowGrid(false);
  table_->setTabKeyNavigation(false);
  table_->setToolTip(tr("Choose two configurations: the levers below show them, case by case"));
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table_->horizontalHeader()->setSectionResizeMode(VerdictColumn, QHeaderView::Stretch);
  connect(table_->horizontalHeader(), &QHeaderView::sectionResized, this, &ShapeView::fitRows);
  connect(table_, &QTableWidget::itemSelectionChanged, this, [this] { choosePair(table_->currentRow()); });
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 0, 12, 0);
  column->setSpacing(4);
  column->addWidget(sentence_);
  column->addWidget(picture_, 1);
  column->addWidget(table_, 1);
}

void ShapeView::show(std::optional<std::size_t> case_index) {
  const bool is_wanted = study_.hasStudy() && study_.study().shape != core::Shape::Pair &&
                         !study_.judgement().is_sealed && study_.judgement().findings.recorded_passes > 0;
  setVisible(is_wanted);
  if (!is_wanted) return;
  case_index_ = case_index ? case_index : study_.judgement().shape.headlineCase();
  sentence_->setText(boundPercents(toQt(core::enoughText(study_.study(), study_.judgement().shape, case_index_))));
  sentence_->setVisible(!sentence_->text().isEmpty());
  constexpr int kLeast = 150;
  constexpr int kMost = 270;  // a page has more to show: what needs more is drawn smaller
  picture_->setMinimumHeight(std::min(kMost, report::shapeHeight(study_.study(), kLeast)));
  picture_->setMaker([this](const QSize& size) {
    return report::shapeSvg(study_.study(), study_.judgement().shape, case_index_, currentPalette(), size.width(),
                            size.height());
  });
  fillTable();
}

void ShapeView::fillTable() {
  const QSignalBlocker blocker(table_);
  table_->setAutoScroll(false);  // the first steps stay in sight, not the row that the levers show
  table_->setRowCount(0);
  pairs_.clear();
  const auto put = [&](int row, Column column, const std::string& text, bool is_bold) {
    auto* item = new QTableWidgetItem(toQt(text));
    if (is_bold) item->setFont(textFont(TextSize::Normal, true));
    item->setToolTip(item->text());
    table_->setItem(row, column, item);
  };
  const core::ShapeFindings& shape = study_.judgement().shape;
  for (const core::ContrastSection& section : core::contrastSections(study_.study(), shape, case_index_)) {
    const int heading = table_->rowCount();
    table_->insertRow(heading);
    put(heading, ContrastColumn, section.heading, true);
    table_->item(heading, ContrastColumn)->setFlags(Qt::ItemIsEnabled);
    table_->setSpan(heading, 0, 1, ColumnCount);
    pairs_.emplace_back();
    for (const core::ContrastRow& each : section.rows) {
      const int row = table_->rowCount();
      table_->insertRow(row);
      put(row, ContrastColumn, each.title, false);
      put(row, ChangeColumn, each.change, each.is_counted);
      put(row, RemarkColumn, each.remark, false);
      put(row, VerdictColumn, each.verdict, false);
      pairs_.push_back(shape.asked[each.asked].pair);
      if (pairs_.back() == study_.judgement().pair && table_->currentRow() < 0)
        table_->setCurrentCell(row, ContrastColumn);
    }
  }
  bool has_remark = false;  // a crossing has none
  for (int row = 0; row < table_->rowCount(); ++row) {
    const QTableWidgetItem* remark = table_->item(row, RemarkColumn);
    has_remark = has_remark || (remark != nullptr && !remark->text().isEmpty());
  }
  table_->setColumnHidden(RemarkColumn, !has_remark);
  table_->scrollToTop();
  table_->setAutoScroll(true);
  fitRows();
}

void ShapeView::fitRows() {
  constexpr int kMargins = 9;  // of a cell, both sides together
  const QRect room(0, 0, table_->columnWidth(VerdictColumn) - kMargins, kLine);
  for (int row = 0; row < table_->rowCount(); ++row) {
    const QTableWidgetItem* verdict = table_->item(row, VerdictColumn);
    const QString text = verdict == nullptr ? QString() : verdict->text();
    const int height = table_->fontMetrics().boundingRect(room, Qt::TextWordWrap, text).height();
    table_->setRowHeight(row, std::max(kLine, height + 4));
  }
}

void ShapeView::choosePair(int row) {
  if (row < 0 || row >= static_cast<int>(pairs_.size())) return;
  if (const auto& pair = pairs_[static_cast<std::size_t>(row)]) Q_EMIT pairRequested(*pair);
}

}  // namespace app
