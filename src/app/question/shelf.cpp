#include "app/question/shelf.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "app/model/study_model.h"
#include "app/question/parts.h"
#include "app/shell/usable.h"
#include "session/sheet/trial.h"

namespace app {
namespace {

constexpr int kWorkload = 0;
constexpr int kLoads = 1;
constexpr int kPass = 2;
constexpr int kState = 3;

}  // namespace

Shelf::Shelf(QWidget* parent) : QWidget(parent), list_(new QTreeWidget(this)), trial_(softLabel("trialLabel", this)) {
  setObjectName(QStringLiteral("shelf"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  list_->setObjectName(QStringLiteral("shelfList"));
  list_->setAccessibleName(tr("Workloads at hand"));
  list_->setHeaderLabels({tr("workload"), tr("loads mainly"), tr("per pass"), tr("in the study")});
  list_->setRootIsDecorated(false);
  list_->setMinimumHeight(110);
  list_->header()->setStretchLastSection(false);
  list_->header()->setSectionResizeMode(kWorkload, QHeaderView::Stretch);
  for (const int section : {kLoads, kPass, kState})
    list_->header()->setSectionResizeMode(section, QHeaderView::ResizeToContents);
  column->addWidget(list_, 1);
  repeatable_ = softLabel("repeatableLabel", this);
  repeatable_->setMinimumHeight(2 * repeatable_->fontMetrics().lineSpacing());  // nothing below it moves
  repeatable_->setAlignment(Qt::AlignLeft | Qt::AlignTop);
  column->addWidget(repeatable_);
  auto* line = new QHBoxLayout;
  put_ = addButton(line, tr("Put in"), "shelfPutButton", this);
  control_ = addButton(line, tr("Put in as a control"), "shelfControlButton", this);
  control_->setToolTip(tr("Should not move: if it does, something else moved"));
  try_ = addButton(line, tr("Try once"), "shelfTryButton", this);
  try_->setToolTip(tr("One pass, here and now, as the machine stands; nothing of it is filed"));
  line->addStretch(1);
  column->addLayout(line);
  trial_->hide();
  column->addWidget(trial_);
  connect(list_, &QTreeWidget::currentItemChanged, this, [this] { enable(); });
  connect(list_, &QTreeWidget::itemDoubleClicked, put_, &QPushButton::click);
  connect(put_, &QPushButton::clicked, this, [this] {
    if (const ShelfRow* row = rowInHand()) Q_EMIT putRequested(row->item, false);
  });
  connect(control_, &QPushButton::clicked, this, [this] {
    if (const ShelfRow* row = rowInHand()) Q_EMIT putRequested(row->item, true);
  });
  connect(try_, &QPushButton::clicked, this, [this] {
    if (const ShelfRow* row = rowInHand()) Q_EMIT tryRequested(row->item);
  });
}

void Shelf::setRows(std::vector<ShelfRow> rows) {
  const int before = list_->indexOfTopLevelItem(list_->currentItem());
  rows_ = std::move(rows);
  list_->clear();
  for (const ShelfRow& row : rows_) {
    const QString pass = row.item.pass_seconds > 0 ? tr("%1 s").arg(row.item.pass_seconds, 0, 'f', 0) : QString();
    auto* item = new QTreeWidgetItem(list_, {toQt(row.item.a_case.title()), toQt(row.item.loads), pass, QString()});
    const QString about = row.item.about.empty() ? row.from : toQt(row.item.about) + QStringLiteral("; ") + row.from;
    item->setToolTip(kWorkload, row.repeatable.isEmpty() ? about : about + QStringLiteral(".\n") + row.repeatable);
    item->setTextAlignment(kPass, Qt::AlignRight | Qt::AlignVCenter);
  }
  list_->setCurrentItem(list_->topLevelItem(std::clamp(before, 0, std::max(0, list_->topLevelItemCount() - 1))));
  load(study_, can_edit_);
}

void Shelf::load(const core::Study& study, bool can_edit) {
  study_ = study;
  can_edit_ = can_edit;
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    const auto found = std::find_if(study.cases.begin(), study.cases.end(),
                                    [&](const core::Case& one) { return one.title() == rows_[i].item.a_case.title(); });
    QTreeWidgetItem* item = list_->topLevelItem(static_cast<int>(i));
    item->setText(kState, found == study.cases.end() ? QString() : found->is_control ? tr("as a control") : tr("yes"));
  }
  enable();
}

const ShelfRow* Shelf::rowInHand() const {
  const int row = list_->indexOfTopLevelItem(list_->currentItem());
  return row < 0 ? nullptr : &rows_[static_cast<std::size_t>(row)];
}

void Shelf::enable() {
  const ShelfRow* row = rowInHand();
  repeatable_->setText(!row                        ? QString()
                       : row->repeatable.isEmpty() ? tr("It has not run on this bench yet: nobody knows how its passes "
                                                        "differ here.")
                                                   : row->repeatable + QLatin1Char('.'));
  const bool is_in = row && core::hasWorkload(study_, row->item);
  put_->setText(is_in ? tr("Take out") : tr("Put in"));
  const QString none = row ? QString() : tr("Choose a workload in the list first");
  setUsable(*put_, none);
  setUsable(*control_, is_in ? tr("It is in the study; take it out first") : none);
  if (!can_edit_)  // the page says why
    for (QWidget* each : std::initializer_list<QWidget*>{put_, control_}) each->setEnabled(false);
  try_->setText(is_trying_ ? tr("End the trial") : tr("Try once"));
  setUsable(*try_, is_trying_ ? QString()
                   : !row     ? none
                   : !session::canBeTried(row->item.a_case)
                       ? tr("A person plays it, or types its result: it cannot be tried here")
                       : QString());
}

void Shelf::showTrial(const QString& sentence, bool is_running) {
  is_trying_ = is_running;
  trial_->setText(sentence);
  trial_->setVisible(!sentence.isEmpty());
  enable();
}

}  // namespace app
