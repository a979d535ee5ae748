#include "app/shell/stated_facts_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/model/qt_text.h"
#include "app/shell/theme.h"
#include "core/machine/stated_fact.h"

namespace app {
namespace {}  // namespace

StatedFactsDialog::StatedFactsDialog(const std::map<QString, QString>& known, QWidget* parent) : QDialog(parent) {
  setObjectName(QStringLiteral("statedFactsDialog"));
  setWindowTitle(tr("What only you know about this bench"));
  resize(620, 0);
  auto* words = new QLabel(tr("Kept with the time and your name, put into every capture from now on, and disclosed in "
                              "the report. Whatever you leave empty is not known."),
                           this);
  words->setWordWrap(true);
  auto* form = new QFormLayout;
  form->setVerticalSpacing(8);
  for (const core::StatedKind& kind : core::statedKinds()) {
    const QString id = toQt(kind.id);
    auto* edit = new QLineEdit(this);
    edit->setObjectName(id + QStringLiteral("Edit"));
    edit->setPlaceholderText(toQt(kind.example));
    if (const auto before = known.find(id); before != known.end()) edit->setText(before->second);
    form->addRow(kind.unit.empty() ? toQt(kind.title) : tr("%1, %2").arg(toQt(kind.title), toQt(kind.unit)), edit);
    edits_[id] = edit;
  }
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

std::map<QString, QString> StatedFactsDialog::facts() const {
  std::map<QString, QString> facts;
  for (const auto& [id, edit] : edits_) facts[id] = edit->text();
  return facts;
}

}  // namespace app
