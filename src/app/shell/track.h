#pragma once

#include <QAbstractButton>
#include <QWidget>
#include <vector>

#include "core/judgement/doubts.h"

namespace app {

/// What a place is called, on the track and wherever something leads to it.
[[nodiscard]] QString placeTitle(core::Place place);

/// A place on the track: its name and its progress in words.
class TrackButton final : public QAbstractButton {
  Q_OBJECT
 public:
  TrackButton(const QString& name, QWidget* parent);
  void setProgress(const QString& words);

 protected:
  void paintEvent(QPaintEvent* event) override;
  [[nodiscard]] QSize sizeHint() const override { return {150, 60}; }

 private:
  QString progress_;
};

/// The places in the order of the work, down a steel rule at the left edge.
class Track final : public QWidget {
  Q_OBJECT
 public:
  explicit Track(QWidget* parent = nullptr);
  void setPlace(core::Place place);
  void setProgress(core::Place place, const QString& words);

 Q_SIGNALS:
  void placeChosen(core::Place place);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  [[nodiscard]] TrackButton* button(core::Place place) const;
  std::vector<std::pair<core::Place, TrackButton*>> buttons_;
};

}  // namespace app
