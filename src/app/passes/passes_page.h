#pragma once

#include <QWidget>

#include "app/model/passes_view_model.h"
#include "app/model/typed_results_model.h"

class QButtonGroup;
class QStackedWidget;

namespace app {

class FramesView;
class RunOrderView;
class TypingView;

/// Place 4: the passes, looked at in three ways: in run order, frame by frame, and as results that people type.
class PassesPage final : public QWidget {
  Q_OBJECT
 public:
  enum View { RunOrder, Frames, Typing };

  PassesPage(StudyModel& study, const PassesViewModel& views, TypedResultsModel& results, QWidget* parent = nullptr);
  void chooseCase(int case_index);
  void show(View view);
  /// After a change of theme.
  void restyle();

 Q_SIGNALS:
  /// A person wants to leave a pass out; `what` names it without its level.
  void exclusionRequested(qint64 pass_id, const QString& what);
  void proofRequested(qint64 pass_id, const QString& what);
  /// A person wants to read what a pass printed.
  void printedRequested(qint64 pass_id, const QString& what);
  /// Logs from elsewhere, dropped here or to be chosen.
  void importRequested(const QStringList& paths);
  /// A remark on a moment of a pass.
  void noteRequested(const QString& moment);

 protected:
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  void refresh();

  StudyModel& study_;
  TypedResultsModel& results_;
  QButtonGroup* choice_;
  QStackedWidget* views_ = nullptr;
  RunOrderView* run_order_ = nullptr;
  FramesView* frames_ = nullptr;
  TypingView* typing_ = nullptr;
};

}  // namespace app
