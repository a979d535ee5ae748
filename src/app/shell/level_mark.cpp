#include "app/shell/level_mark.h"

#include <qcustomplot.h>
#include <array>
#include <utility>

#include "app/model/qt_text.h"
#include "app/shell/theme.h"
#include "report/shape_svg.h"

namespace app {
namespace {

using Shape = QCPScatterStyle::ScatterShape;

constexpr std::array<std::pair<Shape, const char*>, 12> kShapes{{
    {Shape::ssDisc, "disc"},
    {Shape::ssSquare, "square"},
    {Shape::ssDiamond, "diamond"},
    {Shape::ssTriangle, "triangle"},
    {Shape::ssTriangleInverted, "triangle on its tip"},
    {Shape::ssCrossSquare, "crossed square"},
    {Shape::ssPlusSquare, "square with a plus"},
    {Shape::ssCrossCircle, "crossed circle"},
    {Shape::ssPlusCircle, "circle with a plus"},
    {Shape::ssStar, "star"},
    {Shape::ssPeace, "circle in three parts"},
    {Shape::ssPlus, "plus"},
}};

}  // namespace

QColor levelColour(const core::Study& study, core::ConfigurationId configuration) {
  if (study.shape == core::Shape::Pair)
    return configuration == core::ConfigurationId::Baseline ? theme().baseline : theme().changed;
  return QColor(QString::fromStdString(
      report::stepColour(currentPalette(), core::placeOf(configuration), study.configurationCount())));
}

int levelShape(core::ConfigurationId configuration) {
  return kShapes[core::placeOf(configuration) % kShapes.size()].first;
}

QString levelShapeName(core::ConfigurationId configuration) {
  return tr(kShapes[core::placeOf(configuration) % kShapes.size()].second);
}

}  // namespace app
