#include "app/cabinet/reference_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>

#include "core/values/number_text.h"

namespace app {

ReferenceDialog::ReferenceDialog(QWidget* parent)
    : QDialog(parent),
      name_(new QLineEdit(this)),
      source_(new QLineEdit(this)),
      value_(new QLineEdit(this)),
      unit_(new QLineEdit(QStringLiteral("%"), this)),
      at_(new QLineEdit(this)),
      why_not_(new QLabel(this)) {
  setObjectName(QStringLiteral("referenceDialog"));
  setWindowTitle(tr("A number from elsewhere"));
  auto* form = new QFormLayout(this);
  auto* about = new QLabel(tr("It stands beside what was measured here. It is never averaged with it, and nothing is "
                              "judged by it."),
                           this);
  about->setWordWrap(true);
  form->addRow(about);
  const auto add = [&](const QString& label, QLineEdit* edit, const char* name, const QString& hint) {
    edit->setObjectName(QLatin1String(name));
    edit->setPlaceholderText(hint);
    form->addRow(label, edit);
  };
  add(tr("What it is called"), name_, "referenceName", tr("the maker's promise"));
  add(tr("Where it is from"), source_, "referenceSource", tr("its data sheet, page 4"));
  add(tr("The number"), value_, "referenceValue", tr("44"));
  add(tr("Its unit"), unit_, "referenceUnit", tr("% of improvement, or the metric's unit"));
  add(tr("Of which day"), at_, "referenceAt", tr("May 2026; may stay empty"));
  why_not_->setObjectName(QStringLiteral("referenceWhyNot"));
  form->addRow(why_not_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
  form->addRow(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, &ReferenceDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &ReferenceDialog::reject);
  resize(520, sizeHint().height());
}

core::Reference ReferenceDialog::reference() const {
  const auto text = [](const QLineEdit* edit) { return edit->text().trimmed().toStdString(); };
  return {text(name_), text(source_), core::numberTyped(text(value_)).value_or(0), text(unit_), text(at_)};
}

void ReferenceDialog::accept() {
  if (!core::numberTyped(value_->text().trimmed().toStdString()))
    return why_not_->setText(tr("“%1” is not a number. Write it as 44 or 2.5.").arg(value_->text()));
  const core::Reference said = reference();
  if (said.name.empty() || said.source.empty())
    return why_not_->setText(tr("Say what it is called and where it is from."));
  QDialog::accept();
}

}  // namespace app
