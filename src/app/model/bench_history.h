#pragma once

#include <QString>
#include <QStringList>
#include <vector>

#include "core/values/result.h"
#include "store/benches/bench_register.h"

namespace app {

/// What a bench was over one stretch of time, and what had changed when it began; in finished text.
struct BenchStretch {
  QString when;         ///< "2026-11-20 09:12 to 2026-11-21 17:40"
  QString what;         ///< "129 facts"
  QStringList changes;  ///< against the stretch before; empty for the first
};

/// Newest first. Errors of the register
[[nodiscard]] core::Result<std::vector<BenchStretch>> benchHistory(const store::BenchRegister& benches,
                                                                   const std::string& bench);

/// What is different at a moment from the last time before `since_ms` that this bench was seen: the sentence that
/// stands on the bench page. Empty where the bench was never seen before.
[[nodiscard]] QString sinceLastTime(const store::BenchRegister& benches, const std::string& bench,
                                    std::int64_t since_ms, const core::Capture& now);

}  // namespace app
