#include "app/run_sheet/checklist_box.h"

#include <QCheckBox>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "app/shell/theme.h"

namespace app {

ChecklistBox::ChecklistBox(QWidget* parent) : QWidget(parent), column_(new QVBoxLayout(this)) {
  setObjectName(QStringLiteral("checklistBox"));
  column_->setContentsMargins(0, 0, 0, 0);
  column_->setSpacing(4);
}

void ChecklistBox::show(const QStringList& points, const QStringList& ticked) {
  if (points != points_) rebuild(points);
  for (auto* box : findChildren<QCheckBox*>()) {
    const QSignalBlocker quiet(box);
    box->setChecked(ticked.contains(box->property("point").toString()));
  }
  setVisible(!points.isEmpty());
}

void ChecklistBox::rebuild(const QStringList& points) {
  for (auto* box : findChildren<QCheckBox*>()) delete box;
  points_ = points;
  for (qsizetype i = 0; i < points.size(); ++i) {
    auto* box = new QCheckBox(QString(points[i]).replace(QLatin1Char('&'), QStringLiteral("&&")), this);
    box->setObjectName(QStringLiteral("checklistPoint%1").arg(i + 1));
    box->setProperty("point", points[i]);
    box->setFont(textFont(TextSize::Large));
    connect(box, &QCheckBox::toggled, this, [this, point = points[i]](bool is_done) { Q_EMIT ticked(point, is_done); });
    column_->addWidget(box);
  }
}

}  // namespace app
