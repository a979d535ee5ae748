#pragma once

#include <QWidget>

#include "app/model/bench_view_model.h"

class QHBoxLayout;
class QComboBox;
class QLabel;
class QScrollArea;

namespace app {

class PathDrawing;

/// Place 2: what the machine is at each level, what changed between two visits, whether the variable moved.
class BenchPage final : public QWidget {
  Q_OBJECT
 public:
  /// `bench` outlives the page.
  explicit BenchPage(BenchViewModel& bench, QWidget* parent = nullptr);
  void restyle();

 Q_SIGNALS:
  void statedFactsRequested();

 private:
  [[nodiscard]] QHBoxLayout* buildChoice();
  void buildEmpty();
  void refresh();
  void fillChoices();
  [[nodiscard]] QString differencesHtml() const;
  [[nodiscard]] QString proofHtml() const;

  BenchViewModel& bench_;
  QWidget* content_ = nullptr;
  QWidget* empty_ = nullptr;
  QComboBox* left_ = nullptr;
  QComboBox* right_ = nullptr;
  QLabel* summary_ = nullptr;
  QLabel* since_ = nullptr;
  PathDrawing* drawing_ = nullptr;
  QLabel* differences_ = nullptr;
  QLabel* proof_ = nullptr;
  QScrollArea* side_ = nullptr;
};

}  // namespace app
