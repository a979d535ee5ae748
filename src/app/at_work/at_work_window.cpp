#include "app/at_work/at_work_window.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QTableView>
#include <QVBoxLayout>

#include "app/shell/text_dialog.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"

namespace app {

using Phase = WorkStanding::Phase;

namespace {

/// The row is chosen, never a cell of it.
class WholeRows final : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

 protected:
  void initStyleOption(QStyleOptionViewItem* option, const QModelIndex& index) const override {
    QStyledItemDelegate::initStyleOption(option, index);
    option->state &= ~QStyle::State_HasFocus;
  }
};

}  // namespace

AtWorkWindow::AtWorkWindow(AtWorkModel& model, Prompts& prompts, QWidget* parent)
    : QDialog(parent),
      model_(model),
      prompts_(prompts),
      way_(new QLabel(this)),
      table_(new QTableView(this)),
      words_(new QLabel(this)),
      add_(button("atWorkAddButton", tr("Add a study …"))),
      remove_(button("atWorkRemoveButton", tr("Take off the list"))),
      earlier_(button("atWorkEarlierButton", tr("Up"))),
      later_(button("atWorkLaterButton", tr("Down"))),
      open_(button("atWorkOpenButton", tr("Open"))),
      stop_(button("atWorkStopButton", tr("Stop"))),
      stop_all_(button("atWorkStopAllButton", tr("Stop all"))),
      approve_(button("atWorkApproveButton", tr("Read and approve …"))),
      start_(button("atWorkStartButton", tr("Start, or go on"))) {
  setObjectName(QStringLiteral("atWorkWindow"));
  setWindowTitle(tr("Benches at work"));
  resize(1060, 560);
  setUpTable();
  layOut();
  connectParts();
  choose(0);
  refresh();
}

QPushButton* AtWorkWindow::button(const char* name, const QString& text) {
  auto* made = new QPushButton(text, this);
  made->setObjectName(QLatin1String(name));
  return made;
}

void AtWorkWindow::setUpTable() {
  table_->setObjectName(QStringLiteral("atWorkTable"));
  table_->setAccessibleName(tr("benches at work"));
  table_->setModel(&model_);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setItemDelegate(new WholeRows(table_));
  table_->setWordWrap(false);
  table_->setTabKeyNavigation(false);
  table_->verticalHeader()->setDefaultAlignment(Qt::AlignCenter);
  auto* columns = table_->horizontalHeader();
  columns->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  columns->setHighlightSections(false);
  const std::pair<AtWorkModel::Column, int> widths[] = {{AtWorkModel::Bench, 130},
                                                        {AtWorkModel::Study, 190},
                                                        {AtWorkModel::InHand, 250},
                                                        {AtWorkModel::Passes, 84},
                                                        {AtWorkModel::TimeLeft, 90}};
  for (const auto& [column, width] : widths) columns->resizeSection(column, width);
  columns->setStretchLastSection(true);
}

void AtWorkWindow::layOut() {
  auto* head = new QLabel(tr("Your way through the room"), this);
  head->setFont(textFont(TextSize::Normal, true));
  way_->setObjectName(QStringLiteral("wayRoundLabel"));
  way_->setTextFormat(Qt::PlainText);
  way_->setWordWrap(true);
  words_->setObjectName(QStringLiteral("atWorkWords"));
  words_->setTextFormat(Qt::PlainText);
  words_->setWordWrap(true);
  words_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  start_->setDefault(true);
  auto* list = new QHBoxLayout;
  for (QPushButton* one : {add_, remove_, earlier_, later_}) list->addWidget(one);
  list->addStretch(1);
  auto* acts = new QHBoxLayout;
  for (QPushButton* one : {open_, stop_, stop_all_}) acts->addWidget(one);
  acts->addStretch(1);
  for (QPushButton* one : {approve_, start_}) acts->addWidget(one);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 16, 20, 16);
  column->setSpacing(8);
  column->addWidget(head);
  column->addWidget(way_);
  column->addWidget(table_, 1);
  column->addLayout(list);
  column->addWidget(words_);
  column->addLayout(acts);
}

void AtWorkWindow::connectParts() {
  connect(&model_, &QAbstractItemModel::dataChanged, this, &AtWorkWindow::refresh);
  connect(&model_, &QAbstractItemModel::rowsInserted, this, &AtWorkWindow::refresh);
  connect(&model_, &QAbstractItemModel::rowsRemoved, this, &AtWorkWindow::refresh);
  connect(&model_, &QAbstractItemModel::rowsMoved, this, &AtWorkWindow::refresh);
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, &AtWorkWindow::refresh);
  connect(table_, &QTableView::doubleClicked, this, [this] { Q_EMIT openRequested(model_.pathOf(chosen())); });
  connect(add_, &QPushButton::clicked, this, &AtWorkWindow::addStudies);
  connect(remove_, &QPushButton::clicked, this, [this] { model_.remove(chosen()); });
  connect(earlier_, &QPushButton::clicked, this, [this] { model_.move(chosen(), -1); });
  connect(later_, &QPushButton::clicked, this, [this] { model_.move(chosen(), 1); });
  connect(open_, &QPushButton::clicked, this, [this] { Q_EMIT openRequested(model_.pathOf(chosen())); });
  connect(stop_, &QPushButton::clicked, this, [this] { model_.stop(chosen()); });
  connect(stop_all_, &QPushButton::clicked, this, [this] { model_.stopAll(); });
  connect(approve_, &QPushButton::clicked, this, &AtWorkWindow::readAndApprove);
  connect(start_, &QPushButton::clicked, this, &AtWorkWindow::startChosen);
}

int AtWorkWindow::chosen() const { return table_->currentIndex().row(); }

void AtWorkWindow::choose(int row) {
  if (row >= 0 && row < model_.rowCount()) table_->setCurrentIndex(model_.index(row, 0));
}

void AtWorkWindow::showStudy(const QString& path) { choose(model_.add(path)); }

void AtWorkWindow::addStudies() {
  if (const auto path = prompts_.openStudyPath(this)) showStudy(*path);
}

void AtWorkWindow::startChosen() {
  if (!model_.toApprove(chosen()).isEmpty()) return readAndApprove();
  model_.start(chosen());
}

void AtWorkWindow::readAndApprove() {
  const QString path = model_.pathOf(chosen());
  const QStringList acts = model_.toApprove(chosen());
  if (acts.isEmpty()) return;
  auto* dialog = new TextDialog(
      tr("What %1 starts").arg(QFileInfo(path).completeBaseName()),
      {{tr("Nobody has approved this yet. Approve only what you know and trust."), acts.join(QLatin1Char('\n'))}}, this,
      tr("Approve, and start"));
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &QDialog::accepted, this, [this, path, acts] {
    const int row = model_.add(path);  // wherever it stands by now
    if (model_.toApprove(row) == acts) model_.approve(row);
  });
  dialog->open();
}

void AtWorkWindow::refresh() {
  constexpr int kMostLines = 4;  // the rows below say the rest, in the same order
  QStringList way = model_.wayRound();
  if (const auto more = way.size() - kMostLines; more > 1) {
    way = way.mid(0, kMostLines);
    way << tr("and %1 more, as they stand below").arg(more);
  }
  way_->setText(!way.isEmpty()           ? way.join(QLatin1Char('\n'))
                : model_.rowCount() == 0 ? tr("Add the studies of your benches; each runs beside the others.")
                : model_.isAnyRunning()  ? tr("Nobody waits for you.")
                                         : tr("Nothing runs. Choose a bench and start it."));
  const int row = chosen();
  const WorkStanding standing = model_.standingOf(row);
  constexpr int kFitsTheColumn = 40;
  words_->setText(standing.words.size() > kFitsTheColumn ? standing.words : QString());
  words_->setVisible(!words_->text().isEmpty());
  const QString none = row < 0 ? tr("Choose a bench first") : QString();
  const QString not_running = standing.isRunning() ? QString() : tr("Its sheet does not run");
  for (QPushButton* one : {remove_, earlier_, later_, open_}) setUsable(*one, none);
  setUsable(*stop_, none.isEmpty() ? not_running : none);
  setUsable(*stop_all_, model_.isAnyRunning() ? QString() : tr("No sheet runs"));
  const bool asks = standing.phase == Phase::AsksApproval;
  setUsable(*approve_, !none.isEmpty() ? none : asks ? QString() : tr("Nothing is to be approved"));
  setUsable(*start_, !none.isEmpty()                 ? none
                     : standing.isRunning()          ? tr("Its sheet runs")
                     : standing.phase == Phase::Done ? tr("Its sheet is done")
                     : asks                          ? tr("Read and approve first what it starts")
                                                     : QString());
}

}  // namespace app
