#pragma once

#include <functional>
#include <iosfwd>
#include <map>
#include <string>

#include <CLI/CLI.hpp>

#include "cli/commands.h"

namespace cli {

// What the command line says, for whichever command is given.
struct Given {
  std::string path;
  std::string design;
  std::string group;
  bool as_json = false;
  bool is_short = false;
  RunOptions run_options;
  std::string approved;
  SearchOptions search_options;
  double minutes = 0;
  bool installs = false;
  bool removes = false;
  bool asks_lower = false;
  std::string open_because;
  std::string page_path;
  ReportOptions report_options;
  CaptureOptions capture_options;
  DiffOptions diff_options;
  BenchesOptions benches_options;
  BesideOptions beside_options;
  DeskOptions desk_options;
  PracticeOptions practice_options;
  CabinetOptions cabinet_options;
  std::vector<std::string> words;
  int rounds = 5;
  std::string what;
  std::string text;
  std::string called;
  std::string progress;
  MeasureOptions measure_options;
  RecordOptions record_options;
  std::int64_t pass_id = 0;
  int cause = -1;
  TypeOptions type_options;
  ImportOptions import_options;
  NoteOptions note_options;
  double percent = 0;
  std::string grade;
  JudgeOptions judge_options;
  std::string demo_id;
};

/// The code of a command that has no other than done.
[[nodiscard]] core::Result<ExitCode> ended(const core::Status& done);

/// The commands of the terminal: each with its words, its options, and what it does.
class Commands {
 public:
  /// `app` outlives it.
  explicit Commands(CLI::App& app);
  /// Does what the command that was given asks for. Errors of that command
  [[nodiscard]] core::Result<ExitCode> run(std::ostream& out) const;

 private:
  using Act = std::function<core::Result<ExitCode>(const Given& said, std::ostream& out)>;
  CLI::App* add(const char* name, const char* words, Act act);
  /// One that does something to a study, with up to two words about it.
  CLI::App* addAct(const char* name, const char* words, const char* first, const char* second, Act act);
  void addStudies();
  void addFound();
  void addBenches();
  void addFrames();
  void addPasses();
  void addActs();
  void addJudging();
  void addBeside();
  void addNextStudies();
  void addPractice();
  void addReached(CLI::App& run);

  CLI::App& app_;
  Given given_;
  std::map<const CLI::App*, Act> acts_;
};

}  // namespace cli
