#pragma once

#include <QWidget>

#include "core/study/study.h"

class QComboBox;
class QDoubleSpinBox;
class QHBoxLayout;
class QLabel;
class QLineEdit;

namespace app {

/// The fields of one level.
class LevelEditor final : public QWidget {
  Q_OBJECT
 public:
  /// `name_prefix` begins the object names of the fields: "baseline" gives "baselineNameEdit".
  LevelEditor(const QString& title, const QString& name_prefix, QWidget* parent = nullptr);
  void load(const core::Level& level);
  [[nodiscard]] core::Level level() const;
  void focusName();
  void setTitle(const QString& title);
  /// Where it cannot be edited any more, it can still be looked at.
  void setCanEdit(bool can_edit);
  /// Offers what a running Linux can be told to take for a kind; empty where it takes nothing.
  void offerWrites(const QString& example, const QString& hint);
  /// What the name of the level lets expect for a kind; shown where a person enters nothing of their own.
  void offerReading(const QString& kind_id);

 Q_SIGNALS:
  void edited();

 private:
  core::Level loaded_;
  QLabel* title_;
  QLineEdit* name_;
  QLineEdit* prefix_;
  QLineEdit* environment_;
  QLineEdit* set_command_;
  QLineEdit* writes_;
  QLineEdit* menu_path_;
  QLineEdit* checklist_;
  QLineEdit* reads_;
  QLineEdit* price_;
};

/// The fields of one case.
class CaseEditor final : public QWidget {
  Q_OBJECT
 public:
  explicit CaseEditor(QWidget* parent = nullptr);
  void load(const core::Case& a_case);
  /// The case that was loaded, with the fields put in.
  [[nodiscard]] core::Case edited() const;
  void focusName();
  void focusMetric();
  /// Puts in the edited case with what a person declared about it.
  void setNature(const core::Case& nature);

 Q_SIGNALS:
  void changed();
  /// A person wants to say what kind of case it is.
  void natureRequested();

 private:
  void dressResult();
  void makeThreshold();
  QHBoxLayout* trimRow();
  void showSource();
  core::Case loaded_;
  QLineEdit* workload_;
  QLineEdit* preset_;
  QLineEdit* command_;
  QComboBox* source_;
  QLineEdit* field_;
  QLineEdit* path_;  ///< of a file that the pass writes
  QLabel* field_label_;
  QLineEdit* metric_;
  QLineEdit* unit_;
  QComboBox* direction_;
  QDoubleSpinBox* trim_first_;
  QDoubleSpinBox* trim_last_;
  QDoubleSpinBox* threshold_ = nullptr;  ///< of a metric that is a difference
};

}  // namespace app
