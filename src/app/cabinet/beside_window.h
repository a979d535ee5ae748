#pragma once

#include <QDialog>
#include <map>

#include "app/model/beside_model.h"
#include "app/shell/prompts.h"

class QComboBox;
class QLabel;
class QPushButton;
class QScrollArea;
class QTreeWidget;
class QTreeWidgetItem;

namespace app {

class SvgPicture;

/// Studies beside each other: the claim, what differs between the benches, a picture, and every row in numbers.
class BesideWindow final : public QDialog {
  Q_OBJECT
 public:
  /// `prompts` outlives the window.
  BesideWindow(Prompts& prompts, QWidget* parent = nullptr);
  [[nodiscard]] BesideModel& model() { return model_; }
  void restyle() { refresh(); }

 Q_SIGNALS:
  /// To measure the first study's question again.
  void repeatRequested(const QString& path);

 private:
  void buildLayout();
  [[nodiscard]] QWidget* buildAsked();
  [[nodiscard]] QWidget* buildDrawer();
  void askAs(const std::function<void(core::BesideOrder&)>& change);
  void refresh();
  void fillChoices();
  void fillRows();
  void fillTable();
  void fillEffects(const core::TableEffects& effects);
  void fillDiffers();
  void meantChanged(QTreeWidgetItem* item);
  void acceptRest();
  void addReference();
  void matchCases();
  void save();

  Prompts& prompts_;
  BesideModel model_;
  bool is_filling_ = false;  ///< what a person ticks is told from what is shown
  QLabel* claim_;
  QLabel* told_;
  QComboBox* kind_;
  QComboBox* level_;
  QComboBox* rows_;
  QComboBox* columns_;
  QComboBox* case_;
  std::map<QComboBox*, QLabel*> labels_;  ///< what stands before each of them
  SvgPicture* picture_;
  QScrollArea* picture_area_;
  QTreeWidget* numbers_;
  QTreeWidget* differs_;
  QLabel* came_along_;
  QLabel* references_;
  QPushButton* accept_;
  QPushButton* match_;
  QPushButton* repeat_;
  QPushButton* save_;
};

}  // namespace app
