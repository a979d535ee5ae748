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
  /// The steps of a chain, to be laid out across the page below; hidden for other shapes.
  [[nodiscard]] QWidget* stepsArea() const { return steps_area_; }
  /// Which variable, and which of its levels, a person works on.
  [[nodiscard]] std::size_t variable() const;
  [[nodiscard]] std::size_t level() const;

 Q_SIGNALS:
  /// A person wants the study so.
  void changed(const core::Study& study);
  /// The variable in hand is to be of this kind; empty: of none.
  void kindChosen(const std::string& kind);
  /// Another variable or level was chosen.
  void chosen();

 private:
  void buildVariable(QVBoxLayout* column);
  void buildLevels(QVBoxLayout* column);
  void buildOffers(QVBoxLayout* column);
  void buildKind(QVBoxLayout* column);
  void buildSteps(QVBoxLayout* column);
  void fillLevels();
  void fillSteps();
  void saveResource();
  void saveSteps();
  void removeStep();
  core::Study study_;
  bool is_loading_ = false;
  QComboBox* variables_ = nullptr;
  QLabel* kind_label_ = nullptr;
  QComboBox* kinds_ = nullptr;
  QPushButton* another_ = nullptr;
  QListWidget* levels_ = nullptr;
  QLineEdit* resource_ = nullptr;
  QLineEdit* unit_ = nullptr;
  QLineEdit* flip_ = nullptr;
  QLabel* flip_label_ = nullptr;
  QLabel* offers_label_ = nullptr;
  QLabel* cells_ = nullptr;
  QTableWidget* steps_ = nullptr;
  QWidget* steps_area_ = nullptr;
};

}  // namespace app
