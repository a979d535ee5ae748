#include "app/cabinet/cabinet_window.h"

#include <QVBoxLayout>

#include "app/cabinet/cabinet_view.h"

namespace app {

CabinetWindow::CabinetWindow(CabinetView* view, QWidget* parent) : QDialog(parent) {
  setObjectName(QStringLiteral("cabinetWindow"));
  setWindowTitle(tr("Cabinet"));
  resize(1040, 640);
  auto* layout = new QVBoxLayout(this);
  layout->addWidget(view);
}

}  // namespace app
