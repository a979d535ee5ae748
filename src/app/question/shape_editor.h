#pragma once

#include <QWidget>

#include "core/study/study.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QTableWidget;
class QVBoxLayout;

namespace app {

/// The levels of a study that has more than two configurations: which variable, its levels in order with what each
/// offers, and of a chain its steps. The fields of the level that is chosen stand in a LevelEditor beside it.
class ShapeEditor final : public QWidget {
  Q_OBJECT
 public:
  explicit ShapeEditor(QWidget* parent = nullptr);
  /// `study` of another shape than a pair.
  void load(const core::Study& study);
  /// Where it cannot be edited any more, its levels can still be looked at.
  void setCanEdit(bool can_edit);
  /// Which variable, and which of its levels, a person works on.
  [[nodiscard]] std::size_t variable() const;
  [[nodiscard]] std::size_t level() const;

 Q_SIGNALS:
  /// A person wants the study so.
  void changed(const core::Study& study);
  /// Another variable or level was chosen.
  void chosen();

 private:
  void buildLevels(QVBoxLayout* column);
  void buildOffers(QVBoxLayout* column);
  void addVariable();
  void buildSteps(QVBoxLayout* column);
  void fillLevels();
  void fillSteps();
  void saveResource();
  void saveSteps();
  void addStep();
  void removeStep();
  core::Study study_;
  bool is_loading_ = false;
  QComboBox* variables_ = nullptr;
  QPushButton* another_ = nullptr;
  QListWidget* levels_ = nullptr;
  QLineEdit* resource_ = nullptr;
  QLineEdit* unit_ = nullptr;
  QLineEdit* flip_ = nullptr;
  QLabel* flip_label_ = nullptr;
  QLabel* offers_label_ = nullptr;
  QLabel* cells_ = nullptr;
  QTableWidget* steps_ = nullptr;
  QWidget* step_buttons_ = nullptr;
};

}  // namespace app
