#include "app/findings/used_view.h"

#include <QPainter>
#include <algorithm>
#include <utility>

#include "app/shell/theme.h"
#include "core/estimate/wording.h"

namespace app {
namespace {

constexpr int kTitleWidth = 206;
constexpr int kChangeWidth = 176;
constexpr int kStripHeight = 15;  // of one configuration
constexpr int kAround = 12;
constexpr int kUnreadHeight = 100;  // of what could not be read, in up to five lines

// The lowest and the highest of all passes.
std::pair<double, double> spanOf(const core::Used& used) {
  std::pair span{used.at.front().values.front(), used.at.front().values.front()};
  for (const core::UsedLevel& level : used.at)
    for (const double value : level.values) span = {std::min(span.first, value), std::max(span.second, value)};
  return span;
}

QColor markOf(const core::Used& used, core::ConfigurationId configuration) {
  return configuration == used.pair.to     ? theme().changed
         : configuration == used.pair.from ? theme().baseline
                                           : theme().soft_ink;
}

}  // namespace

class UsedView::Rows final : public QWidget {
 public:
  Rows(const StudyModel& study, const UsedModel& used, QWidget* parent) : QWidget(parent), study_(study), used_(used) {
    setAccessibleName(UsedView::tr("What the levels used, channel by channel"));
  }

  void show(std::optional<std::size_t> case_index) {
    rows_.clear();
    is_of_one_ = case_index.has_value();
    for (const core::Used& one : used_.all())
      if (is_of_one_ ? one.case_index == *case_index : !one.moved.empty()) rows_.push_back(one);
    int height = kAround;
    for (const core::Used& one : rows_) height += heightOf(one);
    unread_ = toQt(core::unreadText(core::unreadOf(store::recordOf(study_.session().open().recorded()))));
    if (!unread_.isEmpty()) unread_ += QLatin1Char('.');
    setMinimumHeight(std::max(height, 80) + (unread_.isEmpty() ? 0 : kUnreadHeight));
    QStringList said;  // what is drawn, in words
    for (const core::Used& one : rows_)
      said << QStringLiteral("%1: %2").arg(toQt(one.channel), toQt(core::usedText(one, study_.study())));
    if (!unread_.isEmpty()) said << unread_;
    setAccessibleDescription(said.join(QStringLiteral(". ")));
    update();
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setFont(textFont(TextSize::Normal));
    painter.setPen(theme().soft_ink);
    if (rows_.empty())
      painter.drawText(rect().adjusted(12, 12, -12, 0), Qt::TextWordWrap,
                       is_of_one_ || used_.all().empty()
                           ? UsedView::tr("No channel was read while the passes ran.")
                           : UsedView::tr("Nothing surely moved. Choose a case below to see what it used."));
    int top = 0;
    for (const core::Used& one : rows_) {
      drawRow(painter, one, QRect(0, top, width(), heightOf(one)));
      top += heightOf(one);
    }
    painter.setFont(textFont(TextSize::Small));
    painter.setPen(theme().soft_ink);
    painter.drawText(QRect(kAround, std::max(top, 80 - kAround) + kAround, width() - 2 * kAround, kUnreadHeight),
                     Qt::TextWordWrap, unread_);
  }

 private:
  [[nodiscard]] static int heightOf(const core::Used& used) {
    return std::max(58, kStripHeight * static_cast<int>(used.at.size()) + 2 * kAround);
  }

  void drawRow(QPainter& painter, const core::Used& used, const QRect& row) const {
    painter.setPen(theme().line);
    painter.drawLine(row.bottomLeft(), row.bottomRight());
    const QRect title(row.left() + 12, row.top() + 6, kTitleWidth - 24, row.height() - 12);
    painter.setFont(textFont(TextSize::Normal, !used.moved.empty()));
    painter.setPen(theme().ink);
    painter.drawText(title, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, toQt(core::usedTitle(used)));
    painter.setFont(textFont(TextSize::Small));
    painter.setPen(theme().soft_ink);
    if (!is_of_one_)
      painter.drawText(title, Qt::AlignLeft | Qt::AlignBottom,
                       painter.fontMetrics().elidedText(toQt(study_.study().cases[used.case_index].title()),
                                                        Qt::ElideRight, title.width()));
    drawStrips(painter, used,
               QRect(row.left() + kTitleWidth, row.top() + kAround, width() - kTitleWidth - kChangeWidth - 12,
                     row.height() - 2 * kAround));
    const QRect change(width() - kChangeWidth, row.top() + 6, kChangeWidth - 8, row.height() - 12);
    const QString text = toQt(core::usedChangeText(used));
    painter.setFont(textFont(TextSize::Small, !used.moved.empty()));
    painter.setPen(used.moved.empty() ? theme().soft_ink : theme().ink);
    painter.drawText(change, Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap,
                     text.isEmpty() ? UsedView::tr("not read at both levels") : text);
  }

  // One line a configuration, on one scale: a dot a pass, an upright stroke at their middle, its number beside it.
  void drawStrips(QPainter& painter, const core::Used& used, const QRect& area) const {
    const auto [low, high] = spanOf(used);
    const double extent = high > low ? high - low : 1;
    constexpr int kName = 96;
    constexpr int kNumber = 66;
    const QRect strip = area.adjusted(kName, 0, -kNumber, 0);
    painter.setFont(textFont(TextSize::Small));
    int line = 0;
    for (const core::UsedLevel& level : used.at) {
      const int middle = area.top() + kStripHeight * line + kStripHeight / 2;
      ++line;
      const QColor mark = markOf(used, level.configuration);
      const auto x = [&, least = low](double value) { return strip.left() + strip.width() * (value - least) / extent; };
      painter.setPen(theme().line);
      painter.drawLine(strip.left(), middle, strip.right(), middle);
      painter.setPen(Qt::NoPen);
      QColor dot = mark;
      dot.setAlpha(130);
      painter.setBrush(dot);
      for (const double value : level.values) painter.drawEllipse(QPointF(x(value), middle), 3, 3);
      painter.setPen(QPen(mark, 2));
      painter.drawLine(QPointF(x(level.median), middle - 6), QPointF(x(level.median), middle + 6));
      painter.setPen(mark);
      const QRect name(area.left(), middle - kStripHeight / 2, kName - 10, kStripHeight);
      painter.drawText(name, Qt::AlignRight | Qt::AlignVCenter,
                       painter.fontMetrics().elidedText(toQt(study_.study().nameOf(level.configuration)),
                                                        Qt::ElideRight, name.width()));
      painter.setPen(theme().ink);
      painter.drawText(QRect(strip.right() + 10, name.top(), kNumber - 10, kStripHeight),
                       Qt::AlignRight | Qt::AlignVCenter, toQt(core::numberText(level.median, used.unit)));
    }
  }

  const StudyModel& study_;
  const UsedModel& used_;
  std::vector<core::Used> rows_;
  bool is_of_one_ = true;
  QString unread_;  ///< what the bench did not show, and why
};

UsedView::UsedView(const StudyModel& study, const UsedModel& used, QWidget* parent)
    : QScrollArea(parent), study_(study), rows_(new Rows(study, used, this)) {
  setObjectName(QStringLiteral("usedView"));
  setAccessibleName(tr("What the levels used"));
  setFrameShape(QFrame::NoFrame);
  setWidget(rows_);
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
}

void UsedView::showCase(std::optional<std::size_t> case_index) {
  if (study_.hasStudy()) rows_->show(case_index);
}

}  // namespace app
