#pragma once

#include <QScrollArea>

namespace app {

/// Holds a page as large as its room; where that is too small, as small as the page can be, and it scrolls.
class PageArea final : public QScrollArea {
  Q_OBJECT
 public:
  /// Takes the page over.
  explicit PageArea(QWidget* page);

 protected:
  void resizeEvent(QResizeEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void fit();
};

}  // namespace app
