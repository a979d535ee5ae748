#pragma once

#include <qcustomplot.h>

#include <vector>

namespace app {

/// The first of two things in the baseline's ink, the second in copper and dashed: told by shape too.
[[nodiscard]] QPen tracePen(bool is_second);

/// How long frames were how often: one stepped line, or two over each other.
class DistributionPlot final : public QCustomPlot {
  Q_OBJECT
 public:
  explicit DistributionPlot(const char* name, QWidget* parent);
  /// Shapes  frame times in ms; the second list may be empty
  void showFrames(const std::vector<double>& first_ms, const std::vector<double>& second_ms);
};

}  // namespace app
