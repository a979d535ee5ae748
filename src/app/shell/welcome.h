#pragma once

#include <QStringList>
#include <QWidget>

class QVBoxLayout;

namespace app {

class CabinetModel;
class CabinetView;

/// What the window shows before a study is open: what to do first; once there are studies, the cabinet of them.
class Welcome final : public QWidget {
  Q_OBJECT
 public:
  explicit Welcome(CabinetModel& studies, QWidget* parent = nullptr);
  [[nodiscard]] CabinetView* cabinet() const { return cabinet_; }
  /// Studies to go on with, the newest first.
  void showRecent(const QStringList& paths);

 Q_SIGNALS:
  void newRequested();
  void openRequested();
  /// By the id of a demo study.
  void demoRequested(const QString& id);
  void studyRequested(const QString& path);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void lookForStudies();
  [[nodiscard]] QWidget* firstTime();
  [[nodiscard]] QWidget* withStudies();
  void addDemos(QVBoxLayout* layout);
  CabinetModel& studies_;
  CabinetView* cabinet_;
  QVBoxLayout* recent_ = nullptr;
};

}  // namespace app
