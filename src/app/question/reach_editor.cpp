#include "app/question/reach_editor.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QSignalBlocker>

#include "app/model/qt_text.h"

namespace app {

using By = core::Reach::By;

ReachEditor::ReachEditor(QWidget* parent) : QWidget(parent), way_(new QComboBox(this)), to_(new QLineEdit(this)) {
  way_->setObjectName(QStringLiteral("reachBox"));
  way_->setAccessibleName(tr("how the bench is reached"));
  // In the order of Reach::By.
  way_->addItems({tr("this computer"), tr("another computer, over ssh"), tr("a folder that stands for it"),
                  tr("elsewhere; results are typed in")});
  way_->setToolTip(tr("Captures, settings and commands are the bench's own, wherever it is"));
  to_->setObjectName(QStringLiteral("reachEdit"));
  to_->setAccessibleName(tr("name or folder of the bench"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(8);
  row->addWidget(way_);
  row->addWidget(to_, 1);
  row->addStretch(0);
  connect(way_, &QComboBox::activated, this, [this] {
    showWay();
    to_->clear();
    if (to_->isVisible())
      to_->setFocus();
    else
      take();
  });
  connect(to_, &QLineEdit::editingFinished, this, &ReachEditor::take);
  showWay();
}

void ReachEditor::showWay() {
  const By by = static_cast<By>(way_->currentIndex());
  to_->setVisible(by == By::Ssh || by == By::Folder);
  to_->setPlaceholderText(by == By::Ssh ? tr("user@host, or a name of ssh's configuration")
                                        : tr("bench, seen from the study's folder"));
}

void ReachEditor::load(const core::Reach& reach, bool can_edit) {
  way_->setEnabled(can_edit);
  to_->setEnabled(can_edit);
  if (reach == loaded_ && (to_->hasFocus() || way_->hasFocus())) return;  // in the middle of being chosen
  loaded_ = reach;
  const QSignalBlocker blocker(to_);
  way_->setCurrentIndex(static_cast<int>(reach.by));
  to_->setText(toQt(reach.to));
  showWay();
}

void ReachEditor::take() {
  core::Reach chosen{static_cast<By>(way_->currentIndex()), to_->text().trimmed().toStdString()};
  if (chosen.by == By::Here || chosen.by == By::Elsewhere) chosen.to.clear();
  const bool needs_more = (chosen.by == By::Ssh || chosen.by == By::Folder) && chosen.to.empty();
  if (needs_more || chosen == loaded_) return;
  if (const auto checked = core::reachFrom(core::reachText(chosen)); !checked) return Q_EMIT refused(checked.error());
  Q_EMIT edited(chosen);
}

}  // namespace app
