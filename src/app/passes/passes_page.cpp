#include "app/passes/passes_page.h"

#include <QButtonGroup>
#include <QDragEnterEvent>
#include <QHBoxLayout>
#include <QMimeData>
#include <QPushButton>
#include <QStackedWidget>
#include <QUrl>
#include <QVBoxLayout>

#include "app/passes/frames_view.h"
#include "app/passes/run_order_view.h"
#include "app/passes/typing_view.h"

namespace app {

PassesPage::PassesPage(StudyModel& study, const PassesViewModel& views, TypedResultsModel& results, QWidget* parent)
    : QWidget(parent), study_(study), results_(results), choice_(new QButtonGroup(this)) {
  setObjectName(QStringLiteral("passesPage"));
  setAcceptDrops(true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 12, 20, 12);
  column->setSpacing(8);
  auto* line = new QHBoxLayout;
  line->setSpacing(4);
  const std::pair<const char*, QString> ways[] = {{"runOrderButton", tr("In run order")},
                                                  {"framesButton", tr("Frame by frame")},
                                                  {"typingButton", tr("Typed results")}};
  for (int view = RunOrder; view <= Typing; ++view) {
    auto* button = new QPushButton(ways[view].second, this);
    button->setObjectName(QLatin1String(ways[view].first));
    button->setCheckable(true);
    choice_->addButton(button, view);
    line->addWidget(button);
  }
  choice_->button(RunOrder)->setChecked(true);
  auto* bring = new QPushButton(tr("Bring in logs …"), this);
  bring->setObjectName(QStringLiteral("importButton"));
  bring->setToolTip(tr("Frame logs from another machine or program; they can be dropped here too"));
  line->addStretch(1);
  line->addWidget(bring);
  column->addLayout(line);
  // After what chooses between them: Tab goes in the order in which they were made.
  views_ = new QStackedWidget(this);
  run_order_ = new RunOrderView(study, views, this);
  frames_ = new FramesView(study, views, this);
  typing_ = new TypingView(results, this);
  column->addWidget(views_, 1);
  for (QWidget* view : std::initializer_list<QWidget*>{run_order_, frames_, typing_}) views_->addWidget(view);
  connect(choice_, &QButtonGroup::idToggled, this, [this](int view, bool is_on) {
    if (is_on) show(static_cast<View>(view));
  });
  connect(bring, &QPushButton::clicked, this, [this] { Q_EMIT importRequested({}); });
  connect(run_order_, &RunOrderView::exclusionRequested, this, &PassesPage::exclusionRequested);
  connect(run_order_, &RunOrderView::framesRequested, this, [this](qint64 pass_id) {
    show(Frames);
    frames_->choosePass(pass_id);
  });
  connect(frames_, &FramesView::noteRequested, this, &PassesPage::noteRequested);
  connect(typing_, &TypingView::proofRequested, this, &PassesPage::proofRequested);
  connect(run_order_, &RunOrderView::printedRequested, this, &PassesPage::printedRequested);
  connect(&study_, &StudyModel::changed, this, &PassesPage::refresh);
  connect(&study_, &StudyModel::studyOpened, this, [this] {
    refresh();
    show(results_.isNeeded() && results_.firstOpenRow() >= 0 ? Typing : RunOrder);
  });
  refresh();
}

void PassesPage::refresh() { choice_->button(Typing)->setVisible(results_.isNeeded()); }

void PassesPage::show(View view) {
  choice_->button(view)->setChecked(true);
  views_->setCurrentIndex(view);
  if (view == Typing) typing_->begin();
}

void PassesPage::chooseCase(int case_index) {
  run_order_->chooseCase(case_index);
  frames_->chooseCase(case_index);
}

void PassesPage::restyle() {
  run_order_->restyle();
  frames_->restyle();
}

void PassesPage::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls() && study_.hasStudy()) event->acceptProposedAction();
}

void PassesPage::dropEvent(QDropEvent* event) {
  QStringList paths;
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) paths << url.toLocalFile();
  if (paths.isEmpty()) return;
  event->acceptProposedAction();
  Q_EMIT importRequested(paths);
}

}  // namespace app
