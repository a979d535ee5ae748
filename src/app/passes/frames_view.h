#pragma once

#include <QTimer>
#include <QWidget>

#include "app/model/frames_view_model.h"
#include "app/model/passes_view_model.h"

class QComboBox;
class QCPRange;
class QCustomPlot;
class QLabel;
class QPushButton;

class QVBoxLayout;

namespace app {

class DistributionPlot;

/// Passes frame by frame: a trace that pans and zooms, what was sampled on the same axis, how long frames were how
/// often, and two passes or levels laid over each other.
class FramesView final : public QWidget {
  Q_OBJECT
 public:
  FramesView(const StudyModel& study, const PassesViewModel& passes, QWidget* parent = nullptr);
  void chooseCase(int case_index);
  void choosePass(qint64 pass_id);
  void restyle();

 Q_SIGNALS:
  /// A person has something to say on a moment; "12@3.250" is pass 12 at 3.25 s.
  void noteRequested(const QString& moment);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void buildTop(QVBoxLayout* column);
  void buildPlots(QVBoxLayout* column);
  void fillChoices();
  void readTraces();
  void draw();
  void drawTrace();
  void drawSamples();
  void drawStretches();
  void followRange(const QCPRange& range);
  void sayMetrics();
  void noteMoment();
  [[nodiscard]] core::TraceAxis axis() const;

  const StudyModel& study_;
  const PassesViewModel& passes_;
  FramesViewModel model_;
  std::vector<FramesChoice> choices_;
  FramesTrace first_;
  FramesTrace second_;
  QComboBox* cases_ = nullptr;
  QComboBox* first_box_ = nullptr;
  QComboBox* second_box_ = nullptr;
  QComboBox* axis_box_ = nullptr;
  QComboBox* channel_box_ = nullptr;
  QPushButton* note_ = nullptr;
  QCustomPlot* trace_plot_ = nullptr;
  QCustomPlot* sample_plot_ = nullptr;
  QCustomPlot* stretch_plot_ = nullptr;
  DistributionPlot* distribution_plot_ = nullptr;
  QLabel* metrics_ = nullptr;
  QLabel* empty_ = nullptr;
  QWidget* plots_ = nullptr;
  QTimer say_metrics_;
  double moment_s_ = 0;
};

}  // namespace app
