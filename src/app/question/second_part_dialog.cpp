#include "app/question/second_part_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "app/model/qt_text.h"
#include "app/question/case_dialog.h"
#include "app/question/editors.h"
#include "app/shell/usable.h"

namespace app {

SecondPartDialog::SecondPartDialog(const core::Study& study, QWidget* parent)
    : QDialog(parent),
      list_(new QListWidget(this)),
      editor_(new CaseEditor(this)),
      rounds_(new QSpinBox(this)),
      reason_(new QLineEdit(this)),
      buttons_(new QDialogButtonBox(this)) {
  setObjectName(QStringLiteral("secondPartDialog"));
  setWindowTitle(tr("Add cases in a second part"));
  auto* words = new QLabel(
      tr("The plan is complete. Cases that are added now are measured in rounds of their own. What the first part says "
         "stays what it was; the added cases are judged among themselves, and say in the report that they came later."),
      this);
  words->setWordWrap(true);
  dress(study);
  auto* take = new QPushButton(tr("Put the case in"), this);
  take->setObjectName(QStringLiteral("takeCaseButton"));
  auto* out = new QPushButton(tr("Take the chosen case out"), this);
  out->setObjectName(QStringLiteral("dropCaseButton"));
  buttons_->addButton(tr("Add them to the plan"), QDialogButtonBox::AcceptRole);
  buttons_->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
  auto* row = new QHBoxLayout;
  row->addWidget(take);
  row->addWidget(out);
  row->addStretch(1);
  auto* form = new QFormLayout;
  form->addRow(tr("measured in"), rounds_);
  form->addRow(tr("reason"), reason_);
  auto* column = new QVBoxLayout(this);
  column->setSpacing(10);
  column->addWidget(words);
  column->addWidget(editor_);
  column->addLayout(row);
  column->addWidget(new QLabel(tr("In the second part:"), this));
  column->addWidget(list_);
  column->addLayout(form);
  column->addWidget(buttons_);
  connect(editor_, &CaseEditor::natureRequested, this, [this] {
    CaseDialog dialog(editor_->edited(), this);
    if (dialog.exec() == QDialog::Accepted) editor_->load(dialog.edited());
  });
  connect(take, &QPushButton::clicked, this, &SecondPartDialog::add);
  connect(out, &QPushButton::clicked, this, &SecondPartDialog::remove);
  connect(reason_, &QLineEdit::textChanged, this, &SecondPartDialog::refresh);
  connect(buttons_, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons_, &QDialogButtonBox::rejected, this, &QDialog::reject);
  refresh();
  resize(sizeHint().expandedTo(QSize(720, 0)));
}

void SecondPartDialog::dress(const core::Study& study) {
  list_->setObjectName(QStringLiteral("addedCasesList"));
  list_->setAccessibleName(tr("cases of the second part"));
  list_->setMaximumHeight(90);
  // A new one begins as the last of the study: most are another preset of what is measured already.
  core::Case first = study.cases.back();
  first.preset.clear();
  editor_->load(first);
  rounds_->setObjectName(QStringLiteral("secondRoundsBox"));
  rounds_->setRange(3, 500);
  rounds_->setValue(study.plan.firstPartRounds());
  rounds_->setSuffix(tr(" rounds"));
  rounds_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  reason_->setObjectName(QStringLiteral("secondReasonEdit"));
  reason_->setPlaceholderText(tr("why they are asked now"));
}

int SecondPartDialog::rounds() const { return rounds_->value(); }
QString SecondPartDialog::reason() const { return reason_->text().trimmed(); }

void SecondPartDialog::add() {
  cases_.push_back(editor_->edited());
  refresh();
}

void SecondPartDialog::remove() {
  const int row = list_->currentRow();
  if (row < 0) return;
  cases_.erase(cases_.begin() + row);
  refresh();
}

void SecondPartDialog::refresh() {
  list_->clear();
  for (const core::Case& one : cases_) list_->addItem(toQt(one.title()));
  QString missing;
  if (cases_.empty())
    missing = tr("Put a case in first");
  else if (reason().isEmpty())
    missing = tr("Say why they are asked now");
  for (QAbstractButton* button : buttons_->buttons())
    if (buttons_->buttonRole(button) == QDialogButtonBox::AcceptRole) setUsable(*button, missing);
}

}  // namespace app
