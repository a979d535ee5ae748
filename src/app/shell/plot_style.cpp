#include "app/shell/plot_style.h"

#include <qcustomplot.h>

#include "app/shell/theme.h"

namespace app {
namespace {

/// One minus sign everywhere: the chart library writes the typewriter's.
class PlainTicker final : public QCPAxisTicker {
  QString getTickLabel(double tick, const QLocale& locale, QChar format, int precision) override {
    return QCPAxisTicker::getTickLabel(tick, locale, format, precision).replace(QLatin1Char('-'), QChar(0x2212));
  }
};

}  // namespace

void stylePlot(QCustomPlot& plot) {
  plot.setBackground(theme().sheet);
  plot.yAxis->setTicker(QSharedPointer<PlainTicker>::create());
  for (QCPAxis* axis : {plot.xAxis, plot.yAxis}) {
    axis->setBasePen(QPen(theme().line));
    axis->setTickPen(QPen(theme().line));
    axis->setSubTickPen(Qt::NoPen);
    axis->grid()->setPen(QPen(theme().line, 0, Qt::DotLine));
    axis->grid()->setZeroLinePen(QPen(theme().soft_ink, 1));
    axis->setTickLabelColor(theme().soft_ink);
    axis->setLabelColor(theme().soft_ink);
    axis->setTickLabelFont(textFont(TextSize::Small));
    axis->setLabelFont(textFont(TextSize::Small));
  }
}

}  // namespace app
