#include "app/question/held_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>

#include "app/model/command_text.h"
#include "app/model/study_model.h"
#include "core/machine/fact_title.h"
#include "core/machine/variable_kind.h"

namespace app {

HeldDialog::HeldDialog(const core::Study& study, QWidget* parent)
    : QDialog(parent), study_(study), own_(new QLineEdit(this)) {
  setObjectName(QStringLiteral("heldDialog"));
  setWindowTitle(tr("What is kept equal"));
  resize(660, 0);
  const core::VariableKind* kind = core::findVariableKind(study.variable().kind);
  const bool has_conditions = kind && !kind->held.empty();
  auto* words = new QLabel(
      has_conditions ? tr("With a part exchanged as a whole much comes along. These are to be equal all the same; one "
                          "that differs is a stop. Enter a reason beside one that may differ.")
                     : tr("For this kind of variable everything but the variable is to be equal already. Facts that "
                          "usually come along can be kept equal as well."),
      this);
  words->setWordWrap(true);
  auto* form = new QFormLayout;
  form->setVerticalSpacing(6);
  if (has_conditions)
    for (const std::string_view id : kind->held) {
      auto* reason = new QLineEdit(this);
      const std::string name(id);
      reason->setObjectName(QStringLiteral("reasonEdit/") + toQt(name));
      reason->setPlaceholderText(tr("kept equal"));
      reason->setAccessibleName(tr("why %1 may differ").arg(toQt(core::factTitle(name))));
      if (const auto released = study.released.find(name); released != study.released.end())
        reason->setText(toQt(released->second));
      form->addRow(toQt(core::factTitle(name)), reason);
      reasons_[name] = reason;
    }
  own_->setObjectName(QStringLiteral("heldEdit"));
  own_->setText(textOf(study.held));
  own_->setPlaceholderText(QStringLiteral("dmi/memory/*/configured_voltage"));
  own_->setToolTip(tr("Facts as the capture calls them, parted by blanks; * stands for any text"));
  form->addRow(tr("and these facts"), own_);
  auto* buttons = new QDialogButtonBox(this);
  buttons->addButton(tr("Apply"), QDialogButtonBox::AcceptRole);
  buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
  auto* layout = new QVBoxLayout(this);
  layout->setSpacing(12);
  layout->addWidget(words);
  layout->addLayout(form);
  layout->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

core::Study HeldDialog::chosen() const {
  core::Study study = study_;
  study.held = wordsOf(own_->text());
  std::erase_if(study.released, [this](const auto& one) { return reasons_.contains(one.first); });
  for (const auto& [id, reason] : reasons_)
    if (!reason->text().trimmed().isEmpty()) study.released[id] = reason->text().trimmed().toStdString();
  return study;
}

}  // namespace app
