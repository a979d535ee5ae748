#pragma once

class QCustomPlot;

namespace app {

/// Dresses a plot's paper, axes and grid in the theme that is on.
void stylePlot(QCustomPlot& plot);

}  // namespace app
