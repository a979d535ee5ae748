#include "app/shell/prompts.h"

#include <QApplication>
#include <QDBusConnection>
#include <QDBusMessage>
#include <QFileDialog>
#include <QInputDialog>
#include <QMessageBox>
#include <QPrintDialog>

#include "app/model/qt_text.h"
#include "app/question/case_dialog.h"
#include "app/question/held_dialog.h"
#include "app/question/second_part_dialog.h"
#include "app/shell/stated_facts_dialog.h"
#include "app/shell/text_dialog.h"
#include "core/record/explanation.h"
#include "core/values/number_text.h"

namespace app {

QWidget* inFront(QWidget* parent) {
  QWidget* const active = QApplication::activeWindow();
  return active != nullptr && active->isVisible() ? active : parent;
}

namespace {

QString filter() { return tr("Studies (*.ironlever)"); }

std::optional<QString> unlessEmpty(const QString& text) { return text.isEmpty() ? std::nullopt : std::optional(text); }

void showBox(QMessageBox::Icon icon, QWidget* parent, const QString& sentence) {
  auto* box = new QMessageBox(icon, tr("Iron Lever"), sentence, QMessageBox::Close, inFront(parent));
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->open();  // no nested event loop: passes go on
}

}  // namespace

std::optional<QString> DialogPrompts::openStudyPath(QWidget* parent) {
  return unlessEmpty(QFileDialog::getOpenFileName(inFront(parent), tr("Open a study"), {}, filter()));
}

std::optional<QString> DialogPrompts::keptPath(QWidget* parent) {
  QString path = QFileDialog::getSaveFileName(inFront(parent), tr("Where to keep the study"), {}, filter());
  const QString ending = QStringLiteral(".ironlever");
  if (!path.isEmpty() && !path.endsWith(ending)) path += ending;
  return unlessEmpty(path);
}

std::optional<QString> DialogPrompts::reason(QWidget* parent, const QString& what) {
  return unlessEmpty(QInputDialog::getMultiLineText(
      inFront(parent), tr("With a reason"), tr("%1\n\nWhy? The reason is kept, and stands in the report.").arg(what)));
}

std::optional<QString> DialogPrompts::note(QWidget* parent) {
  return unlessEmpty(QInputDialog::getMultiLineText(inFront(parent), tr("A note for the logbook"),
                                                    tr("What happened? It is kept with the time and your name.")));
}

std::optional<std::map<QString, QString>> DialogPrompts::statedFacts(QWidget* parent,
                                                                     const std::map<QString, QString>& known) {
  StatedFactsDialog dialog(known, inFront(parent));
  return dialog.exec() == QDialog::Accepted ? std::optional(dialog.facts()) : std::nullopt;
}

namespace {

/// Asks for one of two levels, then for a text about it.
std::optional<Prompts::LevelReason> levelAndText(QWidget* parent, const QString& title, const QString& which,
                                                 const QString& what, const QStringList& levels, int suggested) {
  bool is_chosen = false;
  const QString level = QInputDialog::getItem(inFront(parent), title, which, levels, suggested, false, &is_chosen);
  if (!is_chosen) return std::nullopt;
  const auto text = unlessEmpty(QInputDialog::getMultiLineText(inFront(parent), title, what.arg(level)));
  return text ? std::optional(Prompts::LevelReason{static_cast<int>(levels.indexOf(level)), *text}) : std::nullopt;
}

}  // namespace

std::optional<Prompts::LevelReason> DialogPrompts::unreachable(QWidget* parent, const QStringList& levels,
                                                               int suggested) {
  return levelAndText(
      parent, tr("A level that cannot be reached"), tr("Which level could not be reached, or did not hold?"),
      tr("%1 — what was tried, and what happened? That is a result, and stands in the study."), levels, suggested);
}

std::optional<Prompts::LevelReason> DialogPrompts::tested(QWidget* parent, const QStringList& levels) {
  return levelAndText(parent, tr("A level without errors"), tr("Which level was tested for errors, and made none?"),
                      tr("%1 — tested by what, and for how long?"), levels, 0);
}

std::optional<QString> DialogPrompts::cause(QWidget* parent, const QString& what, const QStringList& causes) {
  bool is_chosen = false;
  const QString cause = QInputDialog::getItem(
      inFront(parent), tr("Leave a pass out"),
      tr("%1\n\nWhat happened? Only a physical cause is a reason. It stays on record, and can be undone.").arg(what),
      causes, 0, false, &is_chosen);
  return is_chosen ? std::optional(cause) : std::nullopt;
}

std::optional<Prompts::Cause> DialogPrompts::explanation(QWidget* parent, const QString& case_title,
                                                         const QStringList& grades) {
  bool is_given = false;
  const QString grade = QInputDialog::getItem(inFront(parent), tr("Why is it so?"),
                                              tr("What evidence is there for the cause of %1?").arg(case_title), grades,
                                              static_cast<int>(core::Grade::Conjecture), false, &is_given);
  if (!is_given) return std::nullopt;
  const QString text =
      QInputDialog::getText(inFront(parent), tr("Why is it so?"),
                            tr("The cause, and what shows it. It is shown beside the finding with its evidence.\n"
                               "An empty field takes yours back."),
                            QLineEdit::Normal, {}, &is_given);
  return is_given ? std::optional(Cause{static_cast<int>(grades.indexOf(grade)), text.trimmed()}) : std::nullopt;
}

std::optional<Prompts::Expectation> DialogPrompts::prediction(QWidget* parent, const QString& who) {
  bool is_given = false;
  const QString name = QInputDialog::getText(inFront(parent), tr("A prediction"), tr("Who predicts?"),
                                             QLineEdit::Normal, who, &is_given);
  if (!is_given || name.trimmed().isEmpty()) return std::nullopt;
  const QString text = QInputDialog::getText(
      inFront(parent), tr("A prediction"),
      tr("By how many percent will the headline metric change? It is locked at the first counted pass.\n"
         "An empty field takes the prediction back."),
      QLineEdit::Normal, {}, &is_given);
  if (!is_given) return std::nullopt;
  if (text.trimmed().isEmpty()) return Expectation{name, std::nullopt};
  if (const auto percent = core::numberTyped(QString(text).remove(QLatin1Char('%')).toStdString()))
    return Expectation{name, *percent};
  tell(parent, tr("“%1” is not a number. Write the percent as 4 or -2.5, with a hyphen or a minus sign.").arg(text));
  return std::nullopt;
}

std::optional<core::Study> DialogPrompts::heldEqual(QWidget* parent, const core::Study& study) {
  HeldDialog dialog(study, inFront(parent));
  return dialog.exec() == QDialog::Accepted ? std::optional(dialog.chosen()) : std::nullopt;
}

std::optional<Prompts::SecondPart> DialogPrompts::secondPart(QWidget* parent, const core::Study& study) {
  SecondPartDialog dialog(study, inFront(parent));
  if (dialog.exec() != QDialog::Accepted) return std::nullopt;
  return SecondPart{dialog.cases(), dialog.rounds(), dialog.reason()};
}

std::optional<core::Case> DialogPrompts::caseNature(QWidget* parent, const core::Case& a_case) {
  CaseDialog dialog(a_case, inFront(parent));
  return dialog.exec() == QDialog::Accepted ? std::optional(dialog.edited()) : std::nullopt;
}

std::optional<std::pair<QString, QString>> DialogPrompts::match(QWidget* parent, const QStringList& theirs,
                                                                const QStringList& ours) {
  bool is_chosen = false;
  const QString title = tr("Match two cases");
  const QString their =
      QInputDialog::getItem(inFront(parent), title, tr("Which case of the last study?"), theirs, 0, false, &is_chosen);
  if (!is_chosen) return std::nullopt;
  const QString our =
      QInputDialog::getItem(inFront(parent), title, tr("Which case of the first study is the same as %1?").arg(their),
                            ours, 0, false, &is_chosen);
  return is_chosen ? std::optional(std::pair(their, our)) : std::nullopt;
}

std::optional<QString> DialogPrompts::folder(QWidget* parent, const QString& current) {
  return unlessEmpty(QFileDialog::getExistingDirectory(
      inFront(parent), tr("A second folder that gets a copy after each pass"), current));
}

void DialogPrompts::tell(QWidget* parent, const QString& sentence) { showBox(QMessageBox::Warning, parent, sentence); }

std::unique_ptr<QPrinter> DialogPrompts::printer(QWidget* parent) {
  auto chosen = std::make_unique<QPrinter>(QPrinter::HighResolution);
  QPrintDialog dialog(chosen.get(), inFront(parent));
  return dialog.exec() == QDialog::Accepted ? std::move(chosen) : nullptr;
}

void DialogPrompts::read(QWidget* parent, const QString& title, const std::vector<Chapter>& chapters) {
  TextDialog(title, chapters, inFront(parent)).exec();
}

void DialogPrompts::inform(QWidget* parent, const QString& sentence) {
  showBox(QMessageBox::Information, parent, sentence);
}

// The desktop's own way to reach somebody; where there is none, the window asks for attention alone.
std::optional<QString> DialogPrompts::savePath(QWidget* parent, const QString& suggested_name) {
  const QString path = QFileDialog::getSaveFileName(inFront(parent), QObject::tr("Save as"), suggested_name);
  return path.isEmpty() ? std::nullopt : std::optional(path);
}

QStringList DialogPrompts::logPaths(QWidget* parent) {
  return QFileDialog::getOpenFileNames(inFront(parent), QObject::tr("Logs of frames"), QString(),
                                       QObject::tr("All files (*)"));
}

std::optional<QString> DialogPrompts::picturePath(QWidget* parent, const QString& of_what) {
  const QString path =
      QFileDialog::getOpenFileName(inFront(parent), QObject::tr("A picture of the result of %1").arg(of_what),
                                   QString(), QObject::tr("Pictures (*.png *.jpg *.jpeg *.webp)"));
  return path.isEmpty() ? std::nullopt : std::optional(path);
}

void DialogPrompts::call(QWidget* parent, const QString& sentence) {
  if (parent->isActiveWindow()) return;
  QApplication::alert(parent);
  QDBusMessage message = QDBusMessage::createMethodCall(
      QStringLiteral("org.freedesktop.Notifications"), QStringLiteral("/org/freedesktop/Notifications"),
      QStringLiteral("org.freedesktop.Notifications"), QStringLiteral("Notify"));
  message << QStringLiteral("Iron Lever") << 0U << QString() << tr("Needed at the bench") << sentence << QStringList()
          << QVariantMap() << -1;
  QDBusConnection::sessionBus().send(message);  // without an answer to wait for
}

}  // namespace app
