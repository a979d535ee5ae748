#include "app/shell/prompts.h"

#include <QCoreApplication>
#include <QFileDialog>
#include <QInputDialog>
#include <QMessageBox>

#include "app/shell/stated_facts_dialog.h"

namespace app {
namespace {

QString tr(const char* text) { return QCoreApplication::translate("Prompts", text); }
QString filter() { return tr("Studies (*.ironlever)"); }

std::optional<QString> unlessEmpty(const QString& text) { return text.isEmpty() ? std::nullopt : std::optional(text); }

void showBox(QMessageBox::Icon icon, QWidget* parent, const QString& sentence) {
  auto* box = new QMessageBox(icon, tr("Iron Lever"), sentence, QMessageBox::Close, parent);
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->open();  // no nested event loop: passes go on
}

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
      parent, tr("With a reason"), tr("%1\n\nWhy? The reason stands in the study and its report.").arg(what)));
}

std::optional<QString> DialogPrompts::note(QWidget* parent) {
  return unlessEmpty(QInputDialog::getMultiLineText(parent, tr("A note for the logbook"),
                                                    tr("What happened? It is kept with the time and your name.")));
}

std::optional<std::map<QString, QString>> DialogPrompts::statedFacts(QWidget* parent,
                                                                     const std::map<QString, QString>& known) {
  StatedFactsDialog dialog(known, parent);
  return dialog.exec() == QDialog::Accepted ? std::optional(dialog.facts()) : std::nullopt;
}

std::optional<Prompts::LevelReason> DialogPrompts::unreachable(QWidget* parent, const QStringList& levels,
                                                               int suggested) {
  bool is_chosen = false;
  const QString level = QInputDialog::getItem(parent, tr("A level that cannot be reached"),
                                              tr("Which level could not be reached, or did not hold?"), levels,
                                              suggested, false, &is_chosen);
  if (!is_chosen) return std::nullopt;
  const auto reason = unlessEmpty(QInputDialog::getMultiLineText(
      parent, tr("A level that cannot be reached"),
      tr("%1 — what was tried, and what happened? That is a result, and stands in the study.").arg(level)));
  return reason ? std::optional(LevelReason{static_cast<int>(levels.indexOf(level)), *reason}) : std::nullopt;
}

void DialogPrompts::tell(QWidget* parent, const QString& sentence) { showBox(QMessageBox::Warning, parent, sentence); }

void DialogPrompts::inform(QWidget* parent, const QString& sentence) {
  showBox(QMessageBox::Information, parent, sentence);
}

}  // namespace app
