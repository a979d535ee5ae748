#pragma once

#include <QWidget>

namespace app {

/// What the window shows before a study is open: what to do first.
class Welcome final : public QWidget {
  Q_OBJECT
 public:
  explicit Welcome(QWidget* parent = nullptr);

 Q_SIGNALS:
  void newRequested();
  void openRequested();
  void demoRequested();
};

}  // namespace app
