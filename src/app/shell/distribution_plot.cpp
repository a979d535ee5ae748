#include "app/shell/distribution_plot.h"

#include <algorithm>

#include "app/shell/plot_style.h"
#include "app/shell/theme.h"
#include "core/frames/trace.h"

namespace app {
namespace {

constexpr int kBins = 60;

// Rare long frames would press the rest together: all beyond the 99.5th of a hundred are in the last step.
std::pair<double, double> rangeOf(std::vector<double> all) {
  const auto rare = all.begin() + static_cast<std::ptrdiff_t>(0.995 * static_cast<double>(all.size() - 1));
  std::nth_element(all.begin(), rare, all.end());
  const auto [lowest, highest] = std::minmax_element(all.begin(), all.end());
  return {*lowest, std::max(std::min(*highest, 1.2 * *rare), 1.001 * *lowest)};
}

}  // namespace

QPen tracePen(bool is_second) {
  return is_second ? QPen(theme().changed, 1.4, Qt::DashLine) : QPen(theme().baseline, 1.2);
}

DistributionPlot::DistributionPlot(const char* name, QWidget* parent) : QCustomPlot(parent) {
  setObjectName(QLatin1String(name));
  setAccessibleName(tr("How long frames were how often"));
  setMinimumHeight(110);
}

void DistributionPlot::showFrames(const std::vector<double>& first_ms, const std::vector<double>& second_ms) {
  clearPlottables();
  std::vector<double> all = first_ms;
  all.insert(all.end(), second_ms.begin(), second_ms.end());
  if (all.empty()) return replot(rpQueuedReplot);
  const auto [lo, hi] = rangeOf(std::move(all));
  for (const auto* frames : {&first_ms, &second_ms}) {
    if (frames->empty()) continue;
    const core::FrameDistribution found = core::distributionOf(*frames, lo, hi, kBins);
    QCPGraph* graph = addGraph();
    graph->setLineStyle(QCPGraph::lsStepLeft);
    graph->setPen(tracePen(frames == &second_ms));
    QVector<double> shares(found.share.begin(), found.share.end());
    for (double& share : shares) share *= 100;
    graph->setData({found.from_ms.begin(), found.from_ms.end()}, shares, true);
  }
  xAxis->setLabel(tr("frame time, ms"));
  yAxis->setLabel(tr("% of frames"));
  rescaleAxes();
  yAxis->setRangeLower(0);
  replot(rpQueuedReplot);
}

}  // namespace app
