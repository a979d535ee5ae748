#pragma once

#include <cstdint>
#include <optional>
#include <ostream>
#include <string>
#include <vector>

#include "cli/exit_code.h"
#include "core/values/result.h"

namespace cli {

/// The commands behind `iron-lever-cli`, one function each. All print to `out`; an error is returned, not printed.

/// Makes a study file from a design (JSON, docs/study-format.md).
[[nodiscard]] core::Status newCommand(const std::string& study_path, const std::string& design_path, std::ostream& out);

struct RunOptions {
  std::string study_path;
  bool is_approved = false;     ///< the person has read what the study does and approves it
  std::string digest;           ///< and it is what they read: session::digestOf; empty: whatever it is now
  bool repeats_failed = false;  ///< another attempt at passes that failed
  bool is_quiet = false;
  bool is_resumed = false;   ///< after a restart, with nobody there
  bool tells_json = false;   ///< one JSON object a line, see JsonProgress
  bool is_at_bench = false;  ///< the study came from a desk that reaches this computer over ssh
};
/// Runs a study to the end of its plan, or goes on where it stood. Ctrl+C stops it after ending the pass in hand, which
/// will run again; so does a hangup. Needs a QCoreApplication.
[[nodiscard]] core::Result<ExitCode> runCommand(const RunOptions& options, std::ostream& out);

struct SearchOptions {
  RunOptions run;            ///< the study, and its approval
  bool is_set = false;       ///< a person has brought the bench to the next step
  bool is_attended = false;  ///< somebody stays with it, also beyond what the maker set
  bool is_json = false;
};
/// Looks for the highest stable step of a study's variable before its first pass: session::StepSearchRun. Waits where a
/// person is to set a step, as runCommand does. Needs a QCoreApplication.
[[nodiscard]] core::Result<ExitCode> searchCommand(const SearchOptions& options, std::ostream& out);

/// Prints what the plan of a study costs and buys, and which one would be enough, or best within `minutes` above 0.
[[nodiscard]] core::Status planCommand(const std::string& study_path, double minutes, bool as_json, std::ostream& out);

/// Goes on with every sheet that a restart, a power cut or a kill interrupted.
[[nodiscard]] core::Result<ExitCode> resumeCommand(std::ostream& out);
/// Puts a systemd unit for this user that does so at each start, and takes it away.
[[nodiscard]] core::Status installResume(std::ostream& out);
[[nodiscard]] core::Status removeResume(std::ostream& out);

struct MeasureOptions {
  std::string path;
  std::string column;       ///< the time's; empty: found out
  bool are_stamps = false;  ///< that column holds moments, not durations
  std::string unit;         ///< s, ms, us or ns; empty: found out
  double target_fps = 60;
  bool as_json = false;
};
/// Prints what the frames of a log say, of whatever shape it is, and how it was read.
[[nodiscard]] core::Status measureCommand(const MeasureOptions& options, std::ostream& out);

struct RecordOptions {
  std::vector<std::string> command;
  std::string out_path;  ///< where the frames go, one a line; empty: nowhere
  std::string program;   ///< whose frames count; empty: who shows most
  double target_fps = 60;
  double seconds = 0;  ///< counted from the first frame or the key, then the program is asked to end; 0: all
  std::size_t frames = 0;
  bool has_start_key = false;
  bool is_quiet = false;
  bool has_device_time = false;
  bool as_json = false;
};
/// Runs a command in this terminal and records when it shows its frames, without its help; prints what they say. What
/// was recorded is printed however the program ends.
[[nodiscard]] core::Result<ExitCode> recordCommand(const RecordOptions& options, std::ostream& out);

/// Prints every pass of a study; results that are sealed stay so.
[[nodiscard]] core::Status passesCommand(const std::string& study_path, bool as_json, std::ostream& out);
/// Leaves a pass out for one of the physical causes, by number from 1; 0 takes it back.
/// Prints what the command of a pass printed, and what ran beside it. Errors  NotAllowed while results are sealed
[[nodiscard]] core::Status printedCommand(const std::string& study_path, std::int64_t pass_id, bool as_json,
                                          std::ostream& out);
[[nodiscard]] core::Status excludeCommand(const std::string& study_path, std::int64_t pass_id, int cause);
/// The result of the next pass that a person runs by hand. `decimal`: "comma" or "point" where the number alone does
/// not tell; empty asks for it where it matters.
/// Prints which pass got the number, and which one is next.
struct TypeOptions {
  std::string study_path;
  std::string result;  ///< the number; or why it does not run there
  std::string decimal;
  bool does_not_run = false;
  std::vector<std::string> conditions;  ///< what it took: "after a restart"
  bool as_json = false;
};
[[nodiscard]] core::Status typeCommand(const TypeOptions& options, std::ostream& out);

struct ImportOptions {
  std::string study_path;
  std::vector<std::string> paths;
  std::string pattern = "{case}_{level}_{any}";  ///< how the files are named
  std::string case_title;                        ///< of all of them, with `level`; else the names say it
  std::string level;
  std::string unit;  ///< of the time in all of them; empty where the logs say it
};
/// Files logs from elsewhere as planned passes, in the order of the plan. Stops at the first that cannot be read.
[[nodiscard]] core::Status importCommand(const ImportOptions& options, std::ostream& out);

/// What a person does to a study's sheet, each with a reason, a name or a folder; it goes into the logbook.
[[nodiscard]] core::Status skipCommand(const std::string& study_path, const std::string& reason);
/// Errors besides: NotAllowed where nothing contradicts the level of the visit in hand
[[nodiscard]] core::Status measureAnywayCommand(const std::string& study_path, const std::string& reason);
/// Errors besides: NotAllowed for a visit of which nothing is left out; OutOfRange for what is no visit's number
[[nodiscard]] core::Status repeatVisitCommand(const std::string& study_path, const std::string& visit,
                                              const std::string& reason);
/// Which visit a text names. Errors  OutOfRange for what is no visit's number
[[nodiscard]] core::Result<int> visitNumber(const std::string& text);
[[nodiscard]] core::Status stopAtLookCommand(const std::string& study_path);
[[nodiscard]] core::Status addRoundCommand(const std::string& study_path, const std::string& reason);
/// Adds cases (JSON, as a design lists them) in a second part of a complete plan.
[[nodiscard]] core::Status addCasesCommand(const std::string& study_path, const std::string& cases_path, int rounds,
                                           const std::string& reason, std::ostream& out);
/// Takes the passes of a level from an earlier study, where it is called `called`, or as here where that is empty.
[[nodiscard]] core::Status takeCommand(const std::string& study_path, const std::string& level,
                                       const std::string& earlier_path, const std::string& called, std::ostream& out);
/// A point of the checklist for the flip that is due.
[[nodiscard]] core::Status tickCommand(const std::string& study_path, const std::string& point, bool is_taken_back);
/// Writes the whole sheet as a page to be printed: visits, what is done before each, boxes to tick, room for results.
[[nodiscard]] core::Status printSheetCommand(const std::string& study_path, const std::string& out_path);
/// Keeps a picture of how the bench was set up for a visit.
[[nodiscard]] core::Status pictureCommand(const std::string& study_path, const std::string& visit,
                                          const std::string& picture_path);
/// Lists them; with a folder, writes each there too. Errors besides  NotAllowed for a file that exists there
[[nodiscard]] core::Status picturesCommand(const std::string& study_path, const std::string& folder, bool as_json,
                                           std::ostream& out);
[[nodiscard]] core::Status extendCommand(const std::string& study_path, std::ostream& out);
[[nodiscard]] core::Status testedCommand(const std::string& study_path, const std::string& level,
                                         const std::string& how);
/// Errors besides: OutOfRange for an unknown grade
[[nodiscard]] core::Status explainCommand(const std::string& study_path, const std::string& case_title,
                                          const std::string& grade, const std::string& text);
struct JudgeOptions {
  std::string study_path;
  std::string reason;
  std::optional<double> threshold_percent;
  std::optional<double> threshold_ms;  ///< 0: none any more
  std::optional<double> band_percent;
  std::string yardstick;  ///< as designs name it; empty leaves it as it is
};
/// Judges otherwise what is measured already; it stays on record. Errors besides: OutOfRange for an unknown yardstick
[[nodiscard]] core::Status judgeCommand(const JudgeOptions& options);
[[nodiscard]] core::Status predictCommand(const std::string& study_path, const std::string& who, double percent);
/// A person takes a doubt upon themselves; its id as `findings` prints it. Errors besides: Missing with the known ids
[[nodiscard]] core::Status acceptCommand(const std::string& study_path, const std::string& doubt_id,
                                         const std::string& reason);
struct NoteOptions {
  bool is_observed = false;  ///< it stands in the report
  std::string picture = {};  ///< a file; with one it stands in the report, too
};
[[nodiscard]] core::Status noteCommand(const std::string& study_path, const std::string& text,
                                       const NoteOptions& options);
/// Asks the same question again, or confirms one case's finding, in a new study. Errors besides: those of creating it
[[nodiscard]] core::Status repeatCommand(const std::string& study_path, const std::string& new_path, bool asks_lower,
                                         std::ostream& out);
[[nodiscard]] core::Status confirmCommand(const std::string& study_path, const std::string& new_path,
                                          const std::string& case_title, std::ostream& out);
[[nodiscard]] core::Status copyToCommand(const std::string& study_path, const std::string& folder);

/// Prints where a study's sheet stands, for reading or as JSON.
[[nodiscard]] core::Status statusCommand(const std::string& study_path, bool as_json, std::ostream& out);

/// Prints what the study found, for reading or as JSON. Results that are sealed stay so, unless `open_because` gives a
/// reason to open them, which is recorded.
/// Of `between` and `and_level`, names of configurations, it prints what the one says against the other; where nobody
/// asked that before, it is marked as chosen afterwards.
struct FindingsOptions {
  std::string study_path;
  bool as_json = false;
  bool is_short = false;  ///< the claim and the verdicts alone
  std::string open_because;
  std::string between;
  std::string and_level;
};
[[nodiscard]] core::Status findingsCommand(const FindingsOptions& options, std::ostream& out);
/// How a study's report is written.
struct ReportOptions {
  std::string out_path;
  bool names_people = false;     ///< of who expected and explained
  bool has_pictures = false;     ///< those of its visits
  std::string made_by = "full";  ///< the template
  std::string parts = {};        ///< in place of the template's, with commas between
  std::string own_words = {};    ///< a file of plain text, in place of the template's
  std::string kept_as = {};      ///< keep parts and words as a template of this name
  bool is_night = false;
  bool is_talk = false;
  bool is_phone = false;
};
/// Writes a study's report in the form of the file's ending.
[[nodiscard]] core::Status reportCommand(const std::string& study_path, const ReportOptions& options);
/// Finds by trials of approved commands what rights each case of a study can do without, and prints it.
/// Errors besides  NotApproved; Busy where its sheet runs
[[nodiscard]] core::Status rightsCommand(const std::string& study_path, bool as_json, std::ostream& out);
/// Prints what of a study tells of a person or their machine, where it stands, and whether the report would say it.
[[nodiscard]] core::Status personalCommand(const std::string& study_path, bool as_json, std::ostream& out);
/// Records that sealed results are opened before the plan is complete.
[[nodiscard]] core::Status openEarlyCommand(const std::string& study_path, const std::string& reason);

struct CabinetOptions {
  std::string words;    ///< that every study listed has; empty: all
  std::string added;    ///< a folder to be watched from now on
  std::string removed;  ///< one that is not any more
  bool as_json = false;
};
/// Lists the studies in the folders that a person named, each with its sentence, after reading what is new.
[[nodiscard]] core::Status cabinetCommand(const CabinetOptions& options, std::ostream& out);

/// Seals a study with all that follows from it, see session::sealBundle. `kept_names`: as session::keptFrom
[[nodiscard]] core::Status bundleCommand(const std::string& study_path, const std::string& out_path,
                                         const std::vector<std::string>& kept_names, bool as_json, std::ostream& out);
/// Works everything in a bundle out again, and says what differs. Gives whether nothing does. Errors  of verifyBundle
[[nodiscard]] core::Result<bool> verifyCommand(const std::string& path, bool as_json, std::ostream& out);

struct BesideOptions {
  std::vector<std::string> studies;     ///< two or more; or one NAME.beside.json
  std::string level;                    ///< one level of each against that of the first; empty: the same question
  std::string rows;                     ///< of a table: a fact, or "bench"
  std::string columns;                  ///< of a table: a fact, or "level"
  std::string case_title;               ///< that a table shows
  std::vector<std::string> matched;     ///< "title in one=title under which it stands"
  std::vector<std::string> meant;       ///< facts whose difference is what is asked about; * stands for any text
  std::vector<std::string> accepted;    ///< "fact or held condition=why it may differ"
  std::vector<std::string> references;  ///< "name; source; number; unit; day"
  std::vector<std::string> remarks;
  std::string out_path;  ///< where to keep it, NAME.beside.json
  bool as_json = false;
};
/// Lays studies beside each other: what differs between their benches, and what the last says over the first.
/// Errors  those of reading a study and of core::checkAside, levelsBetween and tableOf; Malformed for a document
[[nodiscard]] core::Status besideCommand(const BesideOptions& options, std::ostream& out);

struct DeskOptions {
  std::string ask;                   ///< id of a core::DeskAsk; empty: they are listed
  std::vector<std::string> numbers;  ///< "generation=4", several with commas
  bool as_json = false;
};
/// A sum that people do while they plan. Errors  those of core::deskAnswer; Malformed for what is no number
[[nodiscard]] core::Status deskCommand(const DeskOptions& options, std::ostream& out);

/// One calculation of the core: JSON in, JSON out.
[[nodiscard]] core::Status computeCommand(const std::string& group, std::istream& in, std::ostream& out);

/// The end of a connection from a desk: speaks on standard input and output until they end (docs/bench-end.md).
[[nodiscard]] core::Status benchEndCommand();
/// Runs the sheet of a study that a desk brought, as it was ordered, and writes what it says into its log.
[[nodiscard]] core::Result<ExitCode> benchRunCommand(const std::string& identity, bool is_resumed = false);

struct CaptureOptions {
  std::string reach;       ///< "here", "ssh:NAME", "folder:PATH"; empty: as the next says
  std::string ssh_config;  ///< a configuration that ssh is handed
  std::string root;        ///< a folder that stands for a machine; empty: this one
  std::string root_facts;  ///< what iron-lever-root-facts wrote; empty: where it puts it by itself, if it ran
  std::string device;      ///< PCI address of the device under test; empty: the graphics device that shows the picture
  bool as_json = false;
};
/// Reads the machine and prints every fact, for reading or as JSON (docs/capture-format.md).
[[nodiscard]] core::Status captureCommand(const CaptureOptions& options, std::ostream& out);

struct DiffOptions {
  std::string baseline_path;
  std::string changed_path;
  std::string kind;  ///< id of a core::VariableKind
  std::string device;
  std::vector<std::string> fields;  ///< for "other": the facts that must change
  bool as_json = false;
};
/// Compares two captures by the fields of a kind of variable.
[[nodiscard]] core::Status diffCommand(const DiffOptions& options, std::ostream& out);

struct BenchesOptions {
  std::string bench;  ///< empty: all
  bool is_repeatability = false;
  bool are_papers = false;
  std::string added_kind;  ///< of a paper to add, with its text and the day until which it holds
  std::string text;
  std::string until;
  std::int64_t removed_paper = 0;  ///< its number; 0: none
  std::string was;                 ///< the same bench under its earlier name
  std::string is_not;              ///< another bench, although it reads alike
  std::string part_from;           ///< the bench from which what is asked about was carried over
  bool as_json = false;
};
/// Prints every bench that was worked on, or what one of them was when, and what had changed; or how repeatable each
/// case was on it; or its papers, adding or removing one.
[[nodiscard]] core::Status benchesCommand(const BenchesOptions& options, std::ostream& out);

/// Records what only a person knows about a study's bench; an empty value takes it back.
[[nodiscard]] core::Status stateCommand(const std::string& study_path, const std::string& fact,
                                        const std::string& value);

/// Records that a level of a study cannot be reached: a result, with its reason.
[[nodiscard]] core::Status notReachableCommand(const std::string& study_path, const std::string& level,
                                               const std::string& reason);

/// Makes a study of the demo in a folder and runs it on its simulated bench. A finished one is left as it is.
[[nodiscard]] core::Status demoCommand(const std::string& folder, const std::string& id, std::ostream& out);

/// The whole command line. Returns 0, 1 for a failure, 2 for a command line that cannot be understood.
int runCommandLine(int argc, char** argv);

enum class PracticeAct { List, Start, Sign, Reveal, Record, Forget, Seal };
struct PracticeOptions {
  PracticeAct act = PracticeAct::List;
  std::string exercise;  ///< an id, or a file
  std::string folder;    ///< of the try; of sealing, the file to write
  double pace = 0;
  std::string order;
  std::optional<int> rounds;
  std::optional<int> passes_per_visit;
  std::optional<double> effect;  ///< of free practice, percent; the next two as well
  std::optional<double> noise;
  std::optional<double> flips;
  double percent = 0;
  double lo = 0;
  double hi = 0;
  std::string recommend;
  std::string doubts;
  bool as_json = false;
};
/// Practice on benches with a hidden truth: docs/practice.md.
[[nodiscard]] core::Status practiceCommand(const PracticeOptions& options, std::ostream& out);

}  // namespace cli
