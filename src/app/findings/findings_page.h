#pragma once

#include <QWidget>

#include "app/model/lever_model.h"

class QLabel;
class QListView;
class QComboBox;
class QHBoxLayout;
class QVBoxLayout;
class QPushButton;

namespace app {

class ComparedBar;
class EvidencePanel;
class LeverAxis;
class ShapeView;
class UsedModel;
class UsedView;

/// Place 5: the lever chart, and the evidence behind the row that is chosen.
class FindingsPage final : public QWidget {
  Q_OBJECT
 public:
  FindingsPage(const StudyModel& study, LeverModel& levers, QWidget* parent = nullptr);
  void chooseCase(std::size_t case_index);
  /// What the levels used, in place of the study's own picture.
  void showUsed();
  [[nodiscard]] std::optional<std::size_t> chosenCase() const { return chosen_case_; }
  /// After a change of theme.
  void restyle();

 protected:
  void showEvent(QShowEvent* event) override;

 Q_SIGNALS:
  void openEarlyRequested();
  /// A person wants to ask the question that this study leaves open.
  void nextQuestionRequested();
  /// A person wants a finding to stand out.
  void pinRequested(const QString& case_title);
  /// A person knows, or guesses, why a finding is so.
  void explanationRequested(const QString& case_title);
  /// A person wants to know what this verdict means.
  void meaningRequested(const QString& verdict);
  /// A person wants these two configurations below.
  void pairRequested(const core::PairOf& pair);

 private:
  [[nodiscard]] QHBoxLayout* buildHead(QLabel* title);
  [[nodiscard]] QVBoxLayout* besideChart();
  void dressParts();
  void refresh();
  void showEvidence();
  const StudyModel& study_;
  LeverModel& levers_;
  std::optional<std::size_t> chosen_case_;
  bool is_refreshing_ = false;
  QLabel* title_ = nullptr;
  QLabel* legend_;
  LeverAxis* axis_;
  QListView* list_;
  QLabel* empty_;
  QPushButton* open_early_;
  QPushButton* ask_next_;
  QComboBox* sort_ = nullptr;
  QPushButton* pin_ = nullptr;
  QPushButton* show_used_ = nullptr;
  UsedModel* used_model_;
  UsedView* used_;
  QPushButton* explain_ = nullptr;
  ShapeView* shape_;
  ComparedBar* compared_;
  EvidencePanel* panel_;
};

}  // namespace app
