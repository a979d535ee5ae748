#pragma once

#include <QTreeWidget>

#include "bench/offers.h"

namespace app {

/// What may be changed, by what it belongs to: each kind with what this bench shows now, and who brings another level
/// about.
class KindChooser final : public QTreeWidget {
  Q_OBJECT
 public:
  explicit KindChooser(QWidget* parent = nullptr);
  /// Marks the kind of that id; empty: none is declared.
  void choose(const std::string& id);
  /// Marks none, and begins at the top.
  void clearChoice();
  [[nodiscard]] std::string kind() const;
  /// Nothing where the bench has not been read.
  void showBench(const bench::BenchNow* now);

 Q_SIGNALS:
  /// By a person.
  void chosen(const QString& id);

 private:
  bool is_loading_ = false;
};

/// Who brings another level of a kind about: "the program", "a restart", "a swap".
[[nodiscard]] QString whoFlips(const core::VariableKind& kind, bool is_switched);

}  // namespace app
