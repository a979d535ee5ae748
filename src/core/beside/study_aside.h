#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/judgement/judgement.h"
#include "core/record/record.h"
#include "core/study/study.h"

namespace core {

/// A study that is laid beside others. What it looks into must outlive it.
struct StudyAside {
  std::string name;  ///< how it is called in sentences: its path, or what is short and yet its own
  const Study* study = nullptr;
  const Record* record = nullptr;
  const Judgement* judgement = nullptr;
  std::string path = {};
  std::string sha256 = {};      ///< of its file, in hexadecimal digits
  bool has_changed = false;     ///< it is not what it was when it was laid beside others
  std::string identity = {};    ///< of the study, the same in each of its copies
  std::string moved_from = {};  ///< the path under which it was laid beside others, where it is found elsewhere

  /// When its last pass began, milliseconds since 1970; 0 without one.
  [[nodiscard]] std::int64_t lastPassAt() const;
};

/// Two of them that hold the same pass: one is a copy of the other, with more in it or not. Nothing where all are
/// apart. By when a pass began, how long it took and what it yielded.
[[nodiscard]] std::optional<std::pair<std::size_t, std::size_t>> sharingPasses(std::span<const StudyAside> studies);

/// What has become of a study since it was laid beside others, a sentence each.
[[nodiscard]] std::vector<std::string> sinceLaid(const StudyAside& one);

/// A fact of the benches that is not the same in all studies.
struct FactAside {
  std::string fact;                 ///< as the capture calls it
  std::string title;                ///< in words
  std::vector<std::string> values;  ///< by study; empty where it was not read
};

/// What differs between the benches of the studies at their baseline levels, in what people set, plug in or install;
/// what is in motion by nature is left out. Empty where a study has no capture.
[[nodiscard]] std::vector<FactAside> differencesBetween(std::span<const StudyAside> studies);

/// The capture that stands for a study: the first at its baseline level, or else its first; null without one.
[[nodiscard]] const Capture* captureOf(const StudyAside& one);

}  // namespace core
