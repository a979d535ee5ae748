#pragma once

#include <array>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "core/study/rights.h"
#include "core/values/metric.h"

namespace core {

/// A program and its arguments. Never a shell line: no quoting, no expansion, no pipes.
using Command = std::vector<std::string>;

/// Where a result of a pass is found.
/// Frames: from the log that the pass writes, or recorded by us. A number: in the output, as JSON or behind a pattern,
/// in a file that the pass writes, or from a person, who reads it off a screen or brings a log from elsewhere.
enum class ResultSource { FrameLog, JsonField, Recorded, ByHand, Pattern, File };

/// A number that a pass of a case says, and where it stands.
struct CaseResult {
  std::string name;  ///< as the design calls it; empty: as its metric is called
  ResultSource source = ResultSource::FrameLog;
  std::string field = "frame_ms";  ///< the log's column, or the path of the JSON field ("result.seconds")
  std::string pattern;             ///< its first group is the number; the last match counts
  std::string path;                ///< of a file, seen from the study's folder
  double divide_by = 1;            ///< a sum over so many: "8 threads"
  Metric metric;
  bool is_control = false;  ///< should not respond: if it moves, something else moved

  /// What people call it.
  [[nodiscard]] const std::string& called() const { return name.empty() ? metric.name : name; }
  bool operator==(const CaseResult&) const = default;
};

/// Something that a pass may say of itself, behind a pattern: it runs, but.
struct Condition {
  std::string name;  ///< "warned of low memory"
  std::string pattern;

  bool operator==(const Condition&) const = default;
};

/// By what a pass tells that its case is not possible at a level, which is a result and no failure.
struct Possible {
  std::vector<int> exit_codes;  ///< with which the command then ends
  std::string pattern;          ///< or what it then prints
  std::vector<Condition> conditions;

  [[nodiscard]] bool isAsked() const { return !exit_codes.empty() || !pattern.empty() || !conditions.empty(); }
  bool operator==(const Possible&) const = default;
};

/// What runs beside each pass of a case: a recording, an archive, the load that the machine has in real life.
struct Companion {
  Command command;             ///< empty: nothing does
  std::string name;            ///< what people call it; empty: as its program is called
  double starts_before_s = 5;  ///< before the case does

  [[nodiscard]] bool isAsked() const { return !command.empty(); }
  [[nodiscard]] std::string called() const;
  bool operator==(const Companion&) const = default;
};

/// Does the feature under test act in a case? Some workloads make no use of it.
enum class FeatureActs { Unknown, Yes, No };

/// A workload with a preset: the thing that is run again and again. By itself it is its headline: what the study is
/// judged by; what else a pass of it says is judged beside.
/// In `command` the text "{log}" stands for the path of the frame log that the pass is to write.
struct Case : CaseResult {
  std::string workload;
  std::string preset;
  Command command;
  std::vector<CaseResult> further;  ///< results beside the headline, each with a name of its own
  std::string recorded_program;     ///< or window, whose frames count; empty: of who shows most
  double trim_first_s = 0;
  double trim_last_s = 0;
  bool is_synthetic = false;  ///< made for measuring; else a piece of real work
  FeatureActs feature = FeatureActs::Unknown;
  bool is_played = false;     ///< a person plays it: the program starts it, they say when the counted stretch begins
  std::string route;          ///< what is played, in words
  double played_s = 60;       ///< length of the counted stretch
  std::string settings_file;  ///< the workload's own settings, kept with each pass and compared; empty: none
  std::vector<std::pair<std::string, std::string>> declared;  ///< by a key of kDeclaredFacts
  Possible possible;                                          ///< how it says that it does not run at a level
  Companion companion;                                        ///< runs beside each pass
  std::string audience;                                       ///< whom it stands for: "shows"; empty: nobody said
  Without without;                                            ///< rights that its command and its companion do without
  bool is_second_part = false;  ///< added once the plan was complete: measured in the rounds of the second part alone

  /// "Ring pass, 4K dome", "Ring pass, 4K dome, beside a recording"; the workload alone where there is no preset.
  [[nodiscard]] std::string title() const;
  /// "4K dome, beside a recording": how it is told from others of its workload; empty where it is the only one.
  [[nodiscard]] std::string variant() const;
  /// The headline as one of its results.
  [[nodiscard]] const CaseResult& headline() const { return *this; }
  /// Does a pass yield frames?
  [[nodiscard]] bool hasFrames() const { return source == ResultSource::FrameLog || source == ResultSource::Recorded; }
  /// Is the change expected to show here?
  [[nodiscard]] bool shouldRespond() const { return !is_control && feature != FeatureActs::No; }
  /// What was declared; empty where nothing was.
  [[nodiscard]] std::string declaredFact(std::string_view key) const;
  bool operator==(const Case&) const = default;
};

/// What a person may declare about how a case renders, and how it is called on the screen.
struct DeclaredFact {
  std::string_view key;
  std::string_view title;
  std::string_view example;
};
inline constexpr std::array kDeclaredFacts{
    DeclaredFact{"settings", "settings", "quality high, shadows on"},
    DeclaredFact{"upscaling", "upscaling", "from 2K, factor 1.5"},
    DeclaredFact{"generated_frames", "generated frames", "one for each rendered"},
    DeclaredFact{"automatic_quality", "automatic quality", "on"},
    DeclaredFact{"frame_cap", "frame cap", "60 FPS"},
    DeclaredFact{"background_load", "background load", "a recording, as the users have it"},
};

}  // namespace core
