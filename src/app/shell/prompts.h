#pragma once

#include <QPrinter>
#include <QString>
#include <QStringList>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "core/study/case.h"
#include "core/study/study.h"

class QWidget;

namespace app {

/// Every question that the window asks a person passes through here, so that tests can answer.
class Prompts {
 public:
  virtual ~Prompts() = default;
  /// Empty when the person thinks better of it.
  [[nodiscard]] virtual std::optional<QString> openStudyPath(QWidget* parent) = 0;
  [[nodiscard]] virtual std::optional<QString> keptPath(QWidget* parent) = 0;
  [[nodiscard]] virtual std::optional<QString> reason(QWidget* parent, const QString& what) = 0;
  [[nodiscard]] virtual std::optional<QString> note(QWidget* parent) = 0;
  /// What only a person knows about the bench, by the fact's id; `known` is what was stated before.
  [[nodiscard]] virtual std::optional<std::map<QString, QString>> statedFacts(
      QWidget* parent, const std::map<QString, QString>& known) = 0;
  /// Which of two levels cannot be reached, and why.
  struct LevelReason {
    int level = 0;
    QString reason;
  };
  [[nodiscard]] virtual std::optional<LevelReason> unreachable(QWidget* parent, const QStringList& levels,
                                                               int suggested) = 0;
  /// One of the physical causes for which a pass may be left out.
  [[nodiscard]] virtual std::optional<QString> cause(QWidget* parent, const QString& what,
                                                     const QStringList& causes) = 0;
  /// Which of two levels was tested for errors, and how.
  [[nodiscard]] virtual std::optional<LevelReason> tested(QWidget* parent, const QStringList& levels) = 0;
  /// A cause with its grade, an index of core::kGrades; an empty text takes it back.
  struct Cause {
    int grade = 0;
    QString text;
  };
  [[nodiscard]] virtual std::optional<Cause> explanation(QWidget* parent, const QString& case_title,
                                                         const QStringList& grades) = 0;
  /// Who expects what, in percent; without a number it is taken back.
  struct Expectation {
    QString who;
    std::optional<double> percent;
  };
  [[nodiscard]] virtual std::optional<Expectation> prediction(QWidget* parent, const QString& who) = 0;
  /// The kind of a case, with all that is declared about it.
  [[nodiscard]] virtual std::optional<core::Case> caseNature(QWidget* parent, const core::Case& a_case) = 0;
  /// The study with what is held equal, as the person chose.
  [[nodiscard]] virtual std::optional<core::Study> heldEqual(QWidget* parent, const core::Study& study) = 0;
  /// Cases for a second part, in how many rounds, and why.
  struct SecondPart {
    std::vector<core::Case> cases;
    int rounds = 0;
    QString reason;
  };
  [[nodiscard]] virtual std::optional<SecondPart> secondPart(QWidget* parent, const core::Study& study) = 0;
  /// A case of the last study, and the case of the first that it stands for.
  [[nodiscard]] virtual std::optional<std::pair<QString, QString>> match(QWidget* parent, const QStringList& theirs,
                                                                         const QStringList& ours) = 0;
  /// Empty when the person thinks better of it.
  [[nodiscard]] virtual std::optional<QString> folder(QWidget* parent, const QString& current) = 0;
  /// Where something is to be saved; empty when the person thinks better of it.
  [[nodiscard]] virtual std::optional<QString> savePath(QWidget* parent, const QString& suggested_name) = 0;
  /// Logs to be brought in; empty when the person thinks better of it.
  [[nodiscard]] virtual QStringList logPaths(QWidget* parent) = 0;
  /// A picture that proves a result.
  [[nodiscard]] virtual std::optional<QString> picturePath(QWidget* parent, const QString& of_what) = 0;
  /// A printer, or nothing when the person thinks better of it.
  [[nodiscard]] virtual std::unique_ptr<QPrinter> printer(QWidget* parent) = 0;
  virtual void tell(QWidget* parent, const QString& sentence) = 0;
  /// Texts to be read, each with a heading, however long they are.
  struct Chapter {
    QString heading;
    QString text;
  };
  virtual void read(QWidget* parent, const QString& title, const std::vector<Chapter>& chapters) = 0;
  /// Good to know, and nothing is wrong.
  virtual void inform(QWidget* parent, const QString& sentence) = 0;
  /// A person is needed at the bench, who may be looking elsewhere.
  virtual void call(QWidget* parent, const QString& sentence) = 0;
};

/// The window that a person is at, or `parent` where it is none of ours: a question that opens over it belongs to it.
/// A window manager leaves the keys with the logbook where the logbook's question says that it is the main window's.
[[nodiscard]] QWidget* inFront(QWidget* parent);

/// The real ones.
class DialogPrompts final : public Prompts {
 public:
  void read(QWidget* parent, const QString& title, const std::vector<Chapter>& chapters) override;
  [[nodiscard]] std::optional<QString> openStudyPath(QWidget* parent) override;
  [[nodiscard]] std::optional<QString> keptPath(QWidget* parent) override;
  [[nodiscard]] std::optional<QString> reason(QWidget* parent, const QString& what) override;
  [[nodiscard]] std::optional<QString> note(QWidget* parent) override;
  [[nodiscard]] std::optional<std::map<QString, QString>> statedFacts(QWidget* parent,
                                                                      const std::map<QString, QString>& known) override;
  [[nodiscard]] std::optional<LevelReason> unreachable(QWidget* parent, const QStringList& levels,
                                                       int suggested) override;
  void tell(QWidget* parent, const QString& sentence) override;
  [[nodiscard]] std::optional<QString> cause(QWidget* parent, const QString& what, const QStringList& causes) override;
  [[nodiscard]] std::optional<LevelReason> tested(QWidget* parent, const QStringList& levels) override;
  [[nodiscard]] std::optional<Cause> explanation(QWidget* parent, const QString& case_title,
                                                 const QStringList& grades) override;
  [[nodiscard]] std::optional<Expectation> prediction(QWidget* parent, const QString& who) override;
  [[nodiscard]] std::optional<core::Case> caseNature(QWidget* parent, const core::Case& a_case) override;
  [[nodiscard]] std::optional<core::Study> heldEqual(QWidget* parent, const core::Study& study) override;
  [[nodiscard]] std::optional<SecondPart> secondPart(QWidget* parent, const core::Study& study) override;
  [[nodiscard]] std::optional<std::pair<QString, QString>> match(QWidget* parent, const QStringList& theirs,
                                                                 const QStringList& ours) override;
  [[nodiscard]] std::optional<QString> folder(QWidget* parent, const QString& current) override;
  [[nodiscard]] std::optional<QString> savePath(QWidget* parent, const QString& suggested_name) override;
  [[nodiscard]] QStringList logPaths(QWidget* parent) override;
  [[nodiscard]] std::optional<QString> picturePath(QWidget* parent, const QString& of_what) override;
  [[nodiscard]] std::unique_ptr<QPrinter> printer(QWidget* parent) override;
  void inform(QWidget* parent, const QString& sentence) override;
  void call(QWidget* parent, const QString& sentence) override;
};

}  // namespace app
