#pragma once

#include <QDialog>
#include <map>
#include <string>
#include <vector>

#include "core/study/study.h"

class QLineEdit;

namespace app {

/// What is held equal while the variable moves: the usual conditions of a whole, each of which may be released with a
/// reason, and facts of the tester's own.
class HeldDialog final : public QDialog {
  Q_OBJECT
 public:
  explicit HeldDialog(const core::Study& study, QWidget* parent = nullptr);
  /// The study with what was chosen put in.
  [[nodiscard]] core::Study chosen() const;

 private:
  core::Study study_;
  std::map<std::string, QLineEdit*> reasons_;  ///< by condition; a reason releases it
  QLineEdit* own_;
};

}  // namespace app
