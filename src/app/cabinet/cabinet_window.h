#pragma once

#include <QDialog>

namespace app {

class CabinetView;

/// The cabinet beside an open study.
class CabinetWindow final : public QDialog {
  Q_OBJECT
 public:
  /// Takes the view over.
  explicit CabinetWindow(CabinetView* view, QWidget* parent = nullptr);
};

}  // namespace app
