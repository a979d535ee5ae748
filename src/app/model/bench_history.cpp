#include "app/model/bench_history.h"

#include <QDateTime>
#include <algorithm>

#include "app/model/qt_text.h"
#include "core/machine/comparison.h"
#include "core/machine/difference_sentences.h"

namespace app {
namespace {

QString minuteText(std::int64_t ms) {
  return QDateTime::fromMSecsSinceEpoch(ms).toString(QStringLiteral("yyyy-MM-dd HH:mm"));
}

// Between two sights of a bench nothing is declared: every setting that differs is named.
QStringList changesBetween(const core::Capture& before, const core::Capture& now) {
  const core::Comparison compared =
      core::compareCaptures(before, now, {core::findVariableKind("other"), "", {}, "before", "now"});
  QStringList changes;
  for (const std::string& sentence : core::differenceSentences(compared.must_not))
    changes << QString::fromStdString(sentence);
  return changes;
}

}  // namespace

core::Result<std::vector<BenchStretch>> benchHistory(const store::BenchRegister& benches, const std::string& bench) {
  const auto entries = benches.entries(bench);
  if (!entries) return entries.error();
  std::vector<BenchStretch> stretches;
  const core::Capture* before = nullptr;
  for (const store::BenchRegister::Entry& entry : *entries) {
    const QString from = minuteText(entry.capture.taken_ms);
    const QString until = minuteText(entry.until_ms);
    stretches.push_back({from == until ? from : tr("%1 to %2").arg(from, until),
                         tr("%1 facts").arg(entry.capture.facts.size()),
                         before ? changesBetween(*before, entry.capture) : QStringList()});
    before = &entry.capture;
  }
  std::reverse(stretches.begin(), stretches.end());
  return stretches;
}

QString sinceLastTime(const store::BenchRegister& benches, const std::string& bench, std::int64_t since_ms,
                      const core::Capture& now) {
  const auto entries = benches.entries(bench);
  if (!entries) return QString::fromStdString(entries.error().sentence());
  const store::BenchRegister::Entry* last = nullptr;
  for (const store::BenchRegister::Entry& entry : *entries)
    if (entry.capture.taken_ms < since_ms) last = &entry;
  if (!last) return {};
  // An entry that goes on into this study was seen up to its beginning, at the latest.
  const QString when = minuteText(std::min(last->until_ms, since_ms));
  const QStringList changes = changesBetween(last->capture, now);
  return changes.isEmpty()
             ? tr("Since this bench was last seen, %1, nothing changed.").arg(when)
             : tr("Since this bench was last seen, %1: %2.").arg(when, changes.join(QStringLiteral("; ")));
}

}  // namespace app
