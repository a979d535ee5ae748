#include "app/shell/track.h"

#include <QPainter>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "app/shell/theme.h"

namespace app {

QString placeTitle(core::Place place) {
  switch (place) {
    case core::Place::Question: return Track::tr("Question");
    case core::Place::Bench: return Track::tr("Bench");
    case core::Place::RunSheet: return Track::tr("Run sheet");
    case core::Place::Passes: return Track::tr("Passes");
    case core::Place::Findings: return Track::tr("Findings");
    case core::Place::Report: break;
  }
  return Track::tr("Report");
}

TrackButton::TrackButton(const QString& name, QWidget* parent) : QAbstractButton(parent) {
  setText(name);
  setCheckable(true);
  setAutoExclusive(true);
  setFocusPolicy(Qt::StrongFocus);
  setFixedHeight(60);
}

void TrackButton::setProgress(const QString& words) {
  progress_ = words;
  setAccessibleName(text() + QStringLiteral(", ") + words);
  setToolTip(words);
  update();
}

void TrackButton::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  const QRect place = rect().adjusted(6, 3, 0, -3);
  if (isChecked()) {
    painter.fillRect(place, theme().paper);
    painter.fillRect(QRect(place.left(), place.top(), 4, place.height()), theme().changed);
  }
  if (hasFocus()) {
    painter.setPen(QPen(theme().focus, 2));
    painter.drawRect(place.adjusted(1, 1, -2, -1));
  }
  const QRect words = place.adjusted(14, 6, -4, -6);
  painter.setPen(isEnabled() ? theme().ink : theme().soft_ink);
  painter.setFont(textFont(TextSize::Large, isChecked()));
  painter.drawText(words, Qt::AlignLeft | Qt::AlignTop, text());
  painter.setPen(theme().soft_ink);
  painter.setFont(textFont(TextSize::Small));
  painter.drawText(words, Qt::AlignLeft | Qt::AlignBottom,
                   painter.fontMetrics().elidedText(progress_, Qt::ElideRight, words.width()));
}

Track::Track(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("track"));
  setFixedWidth(172);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(14, 8, 0, 8);
  layout->setSpacing(12);
  const auto add = [&](core::Place place, const char* object_name) {
    auto* button = new TrackButton(placeTitle(place), this);
    button->setObjectName(QLatin1String(object_name));
    // Not clicked: a screen reader only checks it.
    connect(button, &QAbstractButton::toggled, this, [this, place](bool is_on) {
      if (is_on) Q_EMIT placeChosen(place);
    });
    buttons_.emplace_back(place, button);
    layout->addWidget(button);
  };
  add(core::Place::Question, "questionPlaceButton");
  add(core::Place::Bench, "benchPlaceButton");
  add(core::Place::RunSheet, "runSheetPlaceButton");
  add(core::Place::Passes, "passesPlaceButton");
  add(core::Place::Findings, "findingsPlaceButton");
  add(core::Place::Report, "reportPlaceButton");
  layout->addStretch(1);
}

TrackButton* Track::button(core::Place place) const {
  for (const auto& [its_place, button] : buttons_)
    if (its_place == place) return button;
  return nullptr;
}

void Track::setPlace(core::Place place) {
  const QSignalBlocker blocker(button(place));
  button(place)->setChecked(true);
}

void Track::setProgress(core::Place place, const QString& words) { button(place)->setProgress(words); }

void Track::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.fillRect(rect(), theme().sheet);
  painter.setPen(theme().line);
  painter.drawLine(width() - 1, 0, width() - 1, height());
  // The steel rule: a long mark for every fifth.
  for (int i = 0; i * 10 < height(); ++i) painter.drawLine(0, i * 10, i % 5 == 0 ? 13 : 7, i * 10);
}

}  // namespace app
