#include "app/shell/text_dialog.h"

#include <QDialogButtonBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/shell/theme.h"

namespace app {

TextDialog::TextDialog(const QString& title, const std::vector<Prompts::Chapter>& chapters, QWidget* parent,
                       const QString& accept)
    : QDialog(parent) {
  setObjectName(QStringLiteral("textDialog"));
  setWindowTitle(title);
  resize(900, 560);
  auto* layout = new QVBoxLayout(this);
  layout->setSpacing(8);
  for (const Prompts::Chapter& chapter : chapters) {
    auto* heading = new QLabel(chapter.heading, this);
    auto* text = new QPlainTextEdit(chapter.text, this);
    text->setReadOnly(true);
    text->setTabChangesFocus(true);
    text->setFont(monoFont());
    text->setAccessibleName(chapter.heading);
    layout->addWidget(heading);
    layout->addWidget(text, 1);
  }
  auto* buttons = new QDialogButtonBox(this);
  if (!accept.isEmpty())
    buttons->addButton(accept, QDialogButtonBox::AcceptRole)->setObjectName(QStringLiteral("acceptTextButton"));
  buttons->addButton(accept.isEmpty() ? tr("Close") : tr("Cancel"), QDialogButtonBox::RejectRole);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  layout->addWidget(buttons);
}

}  // namespace app
