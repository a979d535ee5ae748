#pragma once

#include <QDialog>

#include "session/study/taken_level.h"
#include "session/user/background.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace app {

class Prompts;
class StudyModel;

/// A level that an earlier study of the bench measured, to be taken over in place of measuring it again: which, from
/// which study, how it is called there. Offers the studies of the cabinet that were measured at this bench.
class TakeLevelDialog final : public QDialog {
  Q_OBJECT
 public:
  /// `study`, which has one, and `prompts` outlive it.
  TakeLevelDialog(StudyModel& study, Prompts& prompts, QWidget* parent = nullptr);

 private:
  void dress();
  void offerStudies();
  void offerLevels();
  void putLevels(const core::Result<core::Study>& read);
  void matchLevel();
  void browse();
  void take();
  StudyModel& study_;
  Prompts& prompts_;
  QComboBox* level_;
  QComboBox* earlier_;
  QComboBox* called_;
  QLabel* problem_;
  QPushButton* take_;
  session::Background reading_;
};

}  // namespace app
