#pragma once

#include <functional>
#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "core/findings/findings.h"
#include "core/record/act.h"
#include "core/record/pass.h"
#include "core/record/record.h"
#include "core/study/study.h"
#include "store/study/database.h"

namespace store {

/// Something that happened, with who and when.
struct Event {
  std::int64_t id = 0;
  std::int64_t at_ms = 0;  ///< UTC, milliseconds since 1970
  std::string person;
  core::Act act;
};

/// Everything recorded, without the bulky outputs and frame series.
struct Recorded {
  std::vector<core::Visit> visits;
  std::vector<core::Pass> passes;  ///< in order of recording
  std::vector<Event> events;
  std::vector<core::VisitCapture> captures;
  std::vector<core::VisitMeasurement> measurements;
};

struct Merged;

/// A study on disk: one SQLite file, described in docs/study-format.md. The file is the truth: each function below is
/// one committed transaction before it returns. Errors as Database, besides those named. One thread at a time.
class StudyFile {
 public:
  /// Makes a new file. Errors besides: NotAllowed when the path exists (it is left as it is)
  [[nodiscard]] static core::Result<StudyFile> create(const std::string& path, const core::Study& study);

  /// Opens an existing one, brings an older schema up to date and checks it. Errors besides: those of checkHeader
  [[nodiscard]] static core::Result<StudyFile> open(const std::string& path);

  [[nodiscard]] const std::string& path() const { return database_.path(); }
  [[nodiscard]] const core::Study& study() const { return study_; }
  /// Which study this is, the same in each of its copies.
  [[nodiscard]] const std::string& identity() const { return identity_; }

  /// Replaces question and plan. Errors besides: NotAllowed once a pass is recorded, or where something else on record
  /// would have no place in it
  core::Status replaceStudy(const core::Study& study);

  /// Changes the plan after the first pass, with the event that says why, in one transaction. What is planned so far
  /// keeps its place. Errors besides: NotAllowed where the new schedule does not begin with the old one
  core::Status changePlan(const core::Study& study, const Event& why);

  /// Records the start of a visit; gives it its id.
  [[nodiscard]] core::Result<core::Visit> addVisit(core::Visit visit);

  /// Files a pass with its untrimmed frames (empty where it has none) and what was sampled meanwhile; gives it its id.
  /// A slot and attempt can be filed once. `with`: what belongs to it, filed with it or not at all.
  [[nodiscard]] core::Result<core::Pass> addPass(core::Pass pass, std::span<const double> frame_ms,
                                                 const core::Samples& samples = {}, std::span<const Event> with = {});

  /// A picture kept as proof.
  struct Attachment {
    std::string name;
    std::string bytes;
  };
  core::Status attach(std::int64_t pass_id, const Attachment& attachment);
  [[nodiscard]] core::Result<std::vector<Attachment>> attachments(std::int64_t pass_id);

  /// A picture of how a visit was set up: the firmware's page, the seat of a module.
  struct VisitPicture {
    std::int64_t visit_id = 0;
    std::string digest;  ///< of its bytes, SHA-256 in hexadecimal digits
    std::string name;
    std::int64_t at_ms = 0;  ///< UTC, milliseconds since 1970
    std::string person;
  };
  /// Keeps the bytes once, however often a picture of the same digest is added.
  core::Status addVisitPicture(const VisitPicture& picture, const std::string& bytes);
  /// In the order in which they were added.
  [[nodiscard]] core::Result<std::vector<VisitPicture>> visitPictures();
  /// Errors besides: Missing where none has that digest
  [[nodiscard]] core::Result<std::string> pictureBytes(const std::string& digest);

  /// `picture`: the bytes of the one that it names, kept with it or not at all.
  core::Status addEvent(const Event& event, const std::string& picture = {});

  /// Files everything that `work` files in one: all of it, or nothing. Errors besides: those of `work`
  core::Status inOneAct(const std::function<core::Status()>& work);

  /// Files what the machine said of itself in a visit. One for each moment of a visit; a second is refused by the
  /// schema.
  core::Status addCapture(const core::VisitCapture& capture);

  /// Files what a level yielded by measurement. One for each moment of a visit, as with captures.
  core::Status addMeasurement(const core::VisitMeasurement& measurement);

  /// Makes a copy that is whole at every moment; an earlier copy of a study in its place is replaced.
  /// Errors besides: ForeignFile where something else lies there, NotAllowed where it is another study (it is left as
  /// it is)
  core::Status copyTo(const std::string& path);
  /// The same in two steps, where the second may take long: everything as it is now into a file near by, whatever was
  /// there; and that file to where the copy belongs, see placeCopy.
  core::Status snapshotTo(const std::string& path);

  /// Everything recorded; study() is as the file has it from then on.
  [[nodiscard]] core::Result<Recorded> recorded();
  [[nodiscard]] core::Result<std::vector<double>> frames(std::int64_t pass_id);
  /// What was sampled during a pass; empty where nothing was.
  [[nodiscard]] core::Result<core::Samples> samples(std::int64_t pass_id);
  struct Output {
    std::string output;
    std::string error_output;
    std::string of_companion;  ///< both of what ran beside the pass
  };
  [[nodiscard]] core::Result<Output> output(std::int64_t pass_id);

  /// A text that the file holds, unpacked, and where: every column that is none of numbers, frames or pictures.
  struct Text {
    std::string table;
    std::int64_t row = 0;
    std::string column;
    std::string text;
    bool is_packed = false;  ///< it lies there compressed
  };

 private:
  friend core::Status forEachText(StudyFile& file, const std::function<void(const Text&)>& take);
  friend void seeFromBench(StudyFile& file);
  friend core::Result<Merged> takeRecorded(StudyFile& into, const std::string& copy);
  explicit StudyFile(Database database) : database_(std::move(database)) {}
  core::Status load();
  core::Status readDesign();
  [[nodiscard]] core::Error damagedFile() const;
  core::Status writeDesign(const core::Study& study);
  core::Status insertEvent(const Event& event);
  core::Status keepPicture(const std::string& digest, const std::string& bytes);
  /// Errors  NotAllowed where the file's last visit is not the one that we know: it is another study's, or another
  /// program went on with it
  core::Status checkLastVisit();
  core::Status addResults(const core::Pass& pass);
  core::Status addFrameChannels(std::int64_t pass_id, std::span<const core::Channel> channels);
  [[nodiscard]] core::Result<std::vector<core::Channel>> frameChannels(std::int64_t pass_id, std::int64_t frames);
  core::Status insertRow(const std::string& table, Statement& statement);
  [[nodiscard]] core::Result<Statement> passRow(const char* columns, std::int64_t pass_id);
  [[nodiscard]] core::Result<std::string> companionOutput(std::int64_t pass_id);

  Database database_;
  core::Study study_;
  bool is_seen_from_bench_ = false;
  std::string identity_;
  using VisitBegin = std::pair<std::int64_t, std::int64_t>;  ///< number and moment
  [[nodiscard]] core::Result<std::optional<VisitBegin>> lastVisit();
  std::optional<VisitBegin> last_visit_;
};

/// From now on the study is seen by the bench that its desk reaches over ssh: it is here. In the file it stays what it
/// is.
void seeFromBench(StudyFile& file);

/// Puts a snapshot of a study to where its copy belongs, which any thread may do. Errors as StudyFile::copyTo
core::Status placeCopy(const std::string& snapshot, const std::string& path);

/// Enters an event into what is recorded; one that leaves a pass out, or takes it back, is about one that is there.
void enter(Event event, Recorded& recorded);

/// What a judgement rests on; looks into `recorded`, which must outlive it.
[[nodiscard]] core::Record recordOf(const Recorded& recorded);
/// The bench's clock beside the desk's, as often as they were compared.
[[nodiscard]] core::BenchClock benchClockOf(const Recorded& recorded);

/// What people stated about the bench, as facts; of each the latest, unless it was taken back.
[[nodiscard]] std::vector<core::Fact> statedFactsOf(const Recorded& recorded);

}  // namespace store
