#include "app/shell/benches_window.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QScrollArea>
#include <QSignalBlocker>

#include "app/model/bench_history.h"
#include "app/shell/theme.h"

namespace app {

BenchesWindow::BenchesWindow(const StudyModel& study, QWidget* parent)
    : QDialog(parent), study_(study), benches_(new QListWidget(this)), history_(new QLabel(this)) {
  setObjectName(QStringLiteral("benchesWindow"));
  setWindowTitle(tr("Benches"));
  resize(860, 520);
  benches_->setObjectName(QStringLiteral("benchesList"));
  benches_->setAccessibleName(tr("Benches"));
  benches_->setFixedWidth(240);
  history_->setObjectName(QStringLiteral("benchHistoryLabel"));
  history_->setWordWrap(true);
  history_->setTextFormat(Qt::RichText);
  history_->setAlignment(Qt::AlignTop);
  history_->setContentsMargins(16, 8, 16, 8);
  history_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
  auto* scroll = new QScrollArea(this);
  scroll->setWidget(history_);
  scroll->setWidgetResizable(true);
  auto* layout = new QHBoxLayout(this);
  layout->addWidget(benches_);
  layout->addWidget(scroll, 1);
  connect(benches_, &QListWidget::currentRowChanged, this, &BenchesWindow::showBench);
  connect(&study, &StudyModel::studyOpened, this, &BenchesWindow::refresh);
  refresh();
}

void BenchesWindow::refresh() {
  const auto benches = study_.benches().benches();
  const QString before = benches_->currentItem() ? benches_->currentItem()->text() : QString();
  {
    const QSignalBlocker blocker(benches_);
    benches_->clear();
    if (benches)
      for (const store::BenchRegister::Bench& bench : *benches) benches_->addItem(toQt(bench.name));
    const auto same = benches_->findItems(before, Qt::MatchExactly);
    benches_->setCurrentItem(same.isEmpty() ? benches_->item(0) : same.front());
  }
  if (!benches) return history_->setText(toQt(benches.error().sentence()).toHtmlEscaped());
  showBench();
}

void BenchesWindow::showBench() {
  if (!benches_->currentItem())
    return history_->setText(tr(
        "No bench is known yet. Each visit of a study captures its bench; from then on this shows what the bench was "
        "when, and what changed since."));
  const auto history = benchHistory(study_.benches(), benches_->currentItem()->text().toStdString());
  if (!history) return history_->setText(toQt(history.error().sentence()).toHtmlEscaped());
  QString html;
  for (const BenchStretch& stretch : *history) {
    html += QStringLiteral("<p style='margin:12px 0 2px 0'><b>%1</b> <span style='color:%2'>%3</span></p>")
                .arg(stretch.when, theme().soft_ink.name(), stretch.what);
    for (const QString& change : stretch.changes)
      html += QStringLiteral("<p style='margin:0'>%1</p>").arg(change.toHtmlEscaped());
    if (stretch.changes.isEmpty())
      html += QStringLiteral("<p style='margin:0; color:%1'>%2</p>").arg(theme().soft_ink.name(), tr("first seen so"));
  }
  history_->setText(html);
}

}  // namespace app
