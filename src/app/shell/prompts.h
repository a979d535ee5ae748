#pragma once

#include <QString>
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
  virtual void tell(QWidget* parent, const QString& sentence) = 0;
};

/// The real ones.
class DialogPrompts final : public Prompts {
 public:
  [[nodiscard]] std::optional<QString> openStudyPath(QWidget* parent) override;
  [[nodiscard]] std::optional<QString> newStudyPath(QWidget* parent) override;
  [[nodiscard]] std::optional<QString> reason(QWidget* parent, const QString& what) override;
  [[nodiscard]] std::optional<QString> note(QWidget* parent) override;
  void tell(QWidget* parent, const QString& sentence) override;
};

}  // namespace app
