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
[[nodiscard]] inline QString toQt(std::string_view text) {
  return QString::fromStdString(core::shownText(std::string(text)));
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
