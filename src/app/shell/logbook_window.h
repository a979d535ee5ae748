#pragma once

#include <QDialog>

#include "app/model/logbook_model.h"

namespace app {

/// The logbook beside the track: what happened, when, by whom. Does not stop anything while it is open.
class LogbookWindow final : public QDialog {
  Q_OBJECT
 public:
  explicit LogbookWindow(LogbookModel& logbook, QWidget* parent = nullptr);

 Q_SIGNALS:
  void noteRequested();
};

}  // namespace app
