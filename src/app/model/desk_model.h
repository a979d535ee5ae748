#pragma once

#include <QObject>
#include <QStringList>
#include <map>
#include <optional>
#include <span>
#include <vector>

#include "core/desk/desk.h"
#include "core/machine/fact.h"

namespace app {

/// Sums for planning, answered as they are typed: what was asked, what was typed for it, and what follows.
class DeskModel final : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;

  [[nodiscard]] const core::DeskAsk& ask() const { return core::deskAsks()[asked_]; }
  void choose(int ask);
  /// What was typed for a number of this ask; stays with it.
  [[nodiscard]] QString typed(int input) const;
  void type(int input, const QString& text);

  struct Answer {
    QString title;
    QString value;
    std::optional<double> number = {};  ///< where it is one
    std::string unit = {};
    double share = 0;  ///< of the largest number of its unit, where there are several; 0: nothing to be drawn
    double whole = 0;  ///< where the number is a part of a whole, such as a frame's time: how far that reaches
  };
  [[nodiscard]] const std::vector<Answer>& answers() const { return answers_; }
  /// What is missing or wrong, in one sentence; empty where there is an answer.
  [[nodiscard]] const QString& told() const { return told_; }

  /// What the bench at hand says of itself; nothing where no study is open.
  void setBench(const core::Capture* capture, const std::string& device);
  [[nodiscard]] bool knowsBench() const { return !fromBench().empty(); }
  /// Takes what it says for this ask.
  void takeFromBench();

 Q_SIGNALS:
  void changed();

 private:
  [[nodiscard]] core::DeskNumbers fromBench() const;
  [[nodiscard]] core::Result<core::DeskNumbers> numbers() const;
  [[nodiscard]] QString missing(const core::DeskNumbers& given) const;
  [[nodiscard]] std::string titleOf(const std::string& key) const;
  void drawToScale(std::span<const core::DeskValue> answer);
  void work();

  std::size_t asked_ = 0;
  std::map<std::pair<std::size_t, int>, QString> typed_;  ///< by ask and number
  std::vector<Answer> answers_;
  QString told_;
  core::Capture bench_;
  std::string device_;
};

}  // namespace app
