#pragma once

#include <QCoreApplication>
#include <QDateTime>
#include <QString>
#include <cstdint>
#include <string>
#include <string_view>

#include "core/values/shown_text.h"

namespace app {

/// UTF-8 text of the core for the screen; what is hidden in a stranger's text is made visible.
[[nodiscard]] inline QString toQtWhole(std::string_view text) { return QString::fromStdString(core::shownText(text)); }

/// The same, cut where it is longer than anybody reads on a screen, and laid out in no time: its end says how long it
/// is. What is to be read before it is approved is never cut.
[[nodiscard]] inline QString toQt(std::string_view text) {
  constexpr std::size_t kMostShown = 4'000;
  if (text.size() <= kMostShown) return toQtWhole(text);
  return toQtWhole(core::cutText(text, kMostShown)) +
         QCoreApplication::translate("IronLever", " … (%1 bytes in all)").arg(text.size());
}

/// A sentence for a label that breaks its lines: never between a number and its percent sign.
[[nodiscard]] inline QString boundPercents(const QString& sentence) {
  return QString::fromStdString(core::withBoundPercents(sentence.toStdString()));
}

/// A text of ours where no object is at hand whose `tr` it could be.
[[nodiscard]] inline QString tr(const char* text) { return QCoreApplication::translate("IronLever", text); }

/// "13:03:27", of a moment in milliseconds since 1970, in the time of this place.
[[nodiscard]] inline QString clockText(std::int64_t ms) {
  return QDateTime::fromMSecsSinceEpoch(ms).toString(QStringLiteral("HH:mm:ss"));
}

}  // namespace app
