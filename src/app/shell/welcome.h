#pragma once

#include <QStringList>
#include <QWidget>

class QVBoxLayout;

namespace app {

/// What the window shows before a study is open: what to do first.
class Welcome final : public QWidget {
  Q_OBJECT
 public:
  explicit Welcome(QWidget* parent = nullptr);
  /// Studies to go on with, the newest first.
  void showRecent(const QStringList& paths);

 Q_SIGNALS:
  void newRequested();
  void openRequested();
  /// By the id of a demo study.
  void demoRequested(const QString& id);
  void studyRequested(const QString& path);

 private:
  void addDemos(QVBoxLayout* layout);
  QVBoxLayout* recent_ = nullptr;
};

}  // namespace app
