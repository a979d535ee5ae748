#include "app/shell/prompts.h"

#include <QCoreApplication>
#include <QFileDialog>
#include <QInputDialog>
#include <QMessageBox>

namespace app {
namespace {

QString tr(const char* text) { return QCoreApplication::translate("Prompts", text); }
QString filter() { return tr("Studies (*.ironlever)"); }

std::optional<QString> unlessEmpty(const QString& text) { return text.isEmpty() ? std::nullopt : std::optional(text); }

}  // namespace

std::optional<QString> DialogPrompts::openStudyPath(QWidget* parent) {
  return unlessEmpty(QFileDialog::getOpenFileName(parent, tr("Open a study"), {}, filter()));
}

std::optional<QString> DialogPrompts::newStudyPath(QWidget* parent) {
  QString path = QFileDialog::getSaveFileName(parent, tr("Where to keep the new study"), {}, filter());
  const QString ending = QStringLiteral(".ironlever");
  if (!path.isEmpty() && !path.endsWith(ending)) path += ending;
  return unlessEmpty(path);
}

std::optional<QString> DialogPrompts::reason(QWidget* parent, const QString& what) {
  return unlessEmpty(QInputDialog::getMultiLineText(
      parent, tr("Accept with a reason"),
      tr("%1\n\nWhy does it not matter here? The reason stands in the study.").arg(what)));
}

std::optional<QString> DialogPrompts::note(QWidget* parent) {
  return unlessEmpty(QInputDialog::getMultiLineText(parent, tr("A note for the logbook"),
                                                    tr("What happened? It is kept with the time and your name.")));
}

void DialogPrompts::tell(QWidget* parent, const QString& sentence) {
  auto* box = new QMessageBox(QMessageBox::Warning, tr("Iron Lever"), sentence, QMessageBox::Close, parent);
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->open();  // no nested event loop: passes go on
}

}  // namespace app
