#pragma once

#include <QString>
#include <QStringList>
#include <map>
#include <optional>

class QWidget;

namespace app {

/// Every question that the window asks a person passes through here, so that tests can answer.
class Prompts {
 public:
  virtual ~Prompts() = default;
  /// Empty when the person thinks better of it.
  [[nodiscard]] virtual std::optional<QString> openStudyPath(QWidget* parent) = 0;
  [[nodiscard]] virtual std::optional<QString> newStudyPath(QWidget* parent) = 0;
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
  virtual void tell(QWidget* parent, const QString& sentence) = 0;
  /// Good to know, and nothing is wrong.
  virtual void inform(QWidget* parent, const QString& sentence) = 0;
};

/// The real ones.
class DialogPrompts final : public Prompts {
 public:
  [[nodiscard]] std::optional<QString> openStudyPath(QWidget* parent) override;
  [[nodiscard]] std::optional<QString> newStudyPath(QWidget* parent) override;
  [[nodiscard]] std::optional<QString> reason(QWidget* parent, const QString& what) override;
  [[nodiscard]] std::optional<QString> note(QWidget* parent) override;
  [[nodiscard]] std::optional<std::map<QString, QString>> statedFacts(QWidget* parent,
                                                                      const std::map<QString, QString>& known) override;
  [[nodiscard]] std::optional<LevelReason> unreachable(QWidget* parent, const QStringList& levels,
                                                       int suggested) override;
  void tell(QWidget* parent, const QString& sentence) override;
  void inform(QWidget* parent, const QString& sentence) override;
};

}  // namespace app
