#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "core/findings/repeatability.h"
#include "core/machine/fact.h"
#include "core/record/noise.h"
#include "core/study/case.h"
#include "core/values/result.h"
#include "store/logs/log_shape.h"
#include "store/study/database.h"

namespace store {

/// The benches that this user has worked on, over time: what each was when, and where its settings are found. One
/// SQLite file beside the studies' own; it repeats what the studies hold, so that a new study knows the bench already.
/// A bench may be named by any name that it ever had: a study keeps the one with which it was made.
/// Every function opens the file, and makes it where it is missing. Errors as Database.
class BenchRegister {
 public:
  explicit BenchRegister(std::string path) : path_(std::move(path)) {}

  struct Bench {
    std::string name;
    int captures = 0;
    std::int64_t first_ms = 0;  ///< UTC, milliseconds since 1970
    std::int64_t last_ms = 0;
  };
  /// By name.
  [[nodiscard]] core::Result<std::vector<Bench>> benches() const;

  /// What a bench was from one moment to another.
  struct Entry {
    core::Capture capture;      ///< as it was first seen so
    std::int64_t until_ms = 0;  ///< last seen so
  };
  /// Oldest first.
  [[nodiscard]] core::Result<std::vector<Entry>> entries(const std::string& bench) const;

  /// The last of them; nothing of a bench that was never seen.
  [[nodiscard]] core::Result<std::optional<Entry>> latest(const std::string& bench) const;

  /// Remembers a capture. One whose configuration is that of the last entry only prolongs it.
  core::Status add(const std::string& bench, const core::Capture& capture);

  /// The noise of one case, with the time at which its null study ended.
  struct Noise {
    core::CaseNoise measured;
    std::int64_t at_ms = 0;
  };
  /// The latest of each case and way of the flip, by title: that of a null study, and that of a pilot.
  [[nodiscard]] core::Result<std::vector<Noise>> noise(const std::string& bench) const;
  /// All that was ever measured of it, the oldest first.
  [[nodiscard]] core::Result<std::vector<Noise>> noiseHistory(const std::string& bench) const;
  core::Status addNoise(const std::string& bench, const std::vector<core::CaseNoise>& measured, std::int64_t at_ms);

  /// How repeatable the cases of each study were on a bench: an entry for each study and case.
  [[nodiscard]] core::Result<std::vector<core::CaseRepeatability>> repeatability(const std::string& bench) const;
  /// Of one study, by its path, in place of what was known of it.
  core::Status setRepeatability(const std::string& bench, const std::string& study,
                                const std::vector<core::CaseRepeatability>& cases);

  /// How a log with the columns of `found` was read before on this bench, where a person confirmed it.
  [[nodiscard]] core::Result<std::optional<LogShape>> logRecipe(const std::string& bench, const LogShape& found) const;
  core::Status setLogRecipe(const std::string& bench, const LogShape& shape);

  /// The cases that were run on a bench, as they were run last; the latest first.
  [[nodiscard]] core::Result<std::vector<core::Case>> workloads(const std::string& bench) const;
  core::Status addWorkloads(const std::string& bench, const std::vector<core::Case>& cases, std::int64_t at_ms);

  /// Where a person finds a level on a bench; empty where nobody wrote it down.
  [[nodiscard]] core::Result<std::string> menuPath(const std::string& bench, const std::string& kind,
                                                   const std::string& level) const;
  core::Status setMenuPath(const std::string& bench, const std::string& kind, const std::string& level,
                           const std::string& menu_path);
  /// The points that a person ticks when bringing a bench to a level; empty where there are none.
  [[nodiscard]] core::Result<std::vector<std::string>> checklist(const std::string& bench, const std::string& kind,
                                                                 const std::string& level) const;
  core::Status setChecklist(const std::string& bench, const std::string& kind, const std::string& level,
                            const std::vector<std::string>& points);

  /// Something that is to be known about a bench and stands in no capture.
  struct Paper {
    std::int64_t id = 0;
    std::string kind;   ///< one of kPaperKinds
    std::string text;   ///< "memory kit 2, from M. Osei"
    std::string until;  ///< a day, as 2027-01-15; empty: for good
  };
  /// What is supported, what is the lowest firmware, what is lent by whom, and whatever else.
  static constexpr std::array<const char*, 4> kPaperKinds{"support_list", "lowest_firmware", "lent", "remark"};
  /// In the order in which they were added.
  [[nodiscard]] core::Result<std::vector<Paper>> papers(const std::string& bench) const;
  core::Status addPaper(const std::string& bench, const Paper& paper);
  /// Errors besides: Missing where the bench has none of that number
  core::Status removePaper(const std::string& bench, std::int64_t id);

 private:
  struct NamedBench {
    Database database;
    std::string bench;  ///< as it is called now
  };
  [[nodiscard]] core::Result<Database> open() const;
  [[nodiscard]] core::Result<NamedBench> open(const std::string& bench) const;
  [[nodiscard]] core::Result<std::vector<Entry>> captures(const std::string& bench, const char* which) const;
  [[nodiscard]] core::Result<std::vector<Noise>> noiseWhere(const std::string& bench, const char* which) const;
  std::string path_;
};

}  // namespace store
