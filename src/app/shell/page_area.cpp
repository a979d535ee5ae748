#include "app/shell/page_area.h"

#include <QEvent>
#include <QLayout>
#include <algorithm>

namespace app {

PageArea::PageArea(QWidget* page) : QScrollArea(page->parentWidget()) {
  setFocusPolicy(Qt::NoFocus);
  setWidget(page);
}

void PageArea::resizeEvent(QResizeEvent* event) {
  QScrollArea::resizeEvent(event);
  fit();
}

bool PageArea::eventFilter(QObject* watched, QEvent* event) {
  if (watched == widget() && event->type() == QEvent::LayoutRequest) fit();
  return QScrollArea::eventFilter(watched, event);
}

// A resizable area would take the height that a page likes best for the least that it needs, and scroll too early.
void PageArea::fit() {
  const QSize least = widget()->minimumSizeHint();
  const int width = std::max(viewport()->width(), least.width());
  const QLayout* layout = widget()->layout();
  const int height =
      layout != nullptr && layout->hasHeightForWidth() ? layout->minimumHeightForWidth(width) : least.height();
  widget()->resize(width, std::max(viewport()->height(), height));
}

}  // namespace app
