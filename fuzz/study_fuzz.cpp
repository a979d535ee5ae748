// Study files that a stranger has written with care: a valid file whose fields are changed, with sums that hold, and
// pages of it with bytes changed. Whatever is in it, it is refused, or read to a judgement. fuzz/run.sh builds and runs
// it.
#include <unistd.h>
#include <array>
#include <cstdint>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <optional>
#include <sstream>
#include <string>

#include <fmt/format.h>

#include "core/estimate/verdict.h"
#include "core/judgement/judgement.h"
#include "core/study/schedule.h"
#include "fuzz/bytes.h"
#include "report/json/findings_json.h"
#include "report/report.h"
#include "store/study/row_sum.h"
#include "store/study/study_file.h"
#include "support/studies.h"

namespace {

using fuzz::Bytes;
using fuzz::demand;
using store::Database;

core::Study study() {
  core::Study study = support::studyOf({"ring", "{log}"});
  study.plan = {2, 1, core::Order::Blocked, 20};
  return study;
}

std::string ownPath(const char* ending) { return fmt::format("/dev/shm/iron-lever-fuzz-{}{}", ::getpid(), ending); }

std::string validFile() {
  const std::string path = ownPath("");
  std::filesystem::remove(path);
  {
    auto file = store::StudyFile::create(path, study());
    if (!file) std::abort();
    core::Visit visit;
    const auto schedule = core::scheduleOf(file->study());
    for (std::size_t slot = 0; slot < schedule.size(); ++slot) {
      if (visit.id == 0 || visit.planned != schedule[slot].visit) {
        visit =
            *file->addVisit({0, schedule[slot].visit, schedule[slot].round, schedule[slot].configuration, "boot", 1});
        (void)file->addCapture({visit.id, core::CaptureMoment::Start, {}});
        (void)file->addMeasurement({visit.id, core::CaptureMoment::Start, {{"read_GBps", {{50, 51}}}}, ""});
      }
      core::Pass pass;
      pass.visit_id = visit.id;
      pass.slot = slot;
      pass.value = 100;
      core::Samples samples{{1}, {{"t", "°C", {}, "chip", {}, {61}}}};
      samples.by_frame = {{"wait", "ms", core::ChannelRole::Frame, "frames", {}, std::vector<double>(50, 1.0)}};
      (void)file->addPass(pass, std::vector<double>(50, 10.0), samples);
    }
    const core::Act acts[]{core::NoteMade{"1@1", "1"},     core::PassExcluded{1, "1"}, core::ChangePredicted{1},
                           core::CauseGiven{"1", {}, "1"}, core::Skipped{1, "1"},      core::FlipBegun{1, "1"},
                           core::PassFelt{1, "1"},         core::NullStudyTaken{}};
    for (const core::Act& act : acts) (void)file->addEvent({0, 5, "M. Osei", act});
  }
  std::ifstream file(path, std::ios::binary);
  std::ostringstream content;
  content << file.rdbuf();
  std::filesystem::remove(path);
  return content.str();
}

constexpr std::array<std::pair<const char*, const char*>, 40> kFields{{
    {"study", "design"},
    {"visit", "planned"},
    {"visit", "round"},
    {"visit", "configuration"},
    {"visit", "boot_id"},
    {"visit", "started_ms"},
    {"pass", "visit_id"},
    {"pass", "slot"},
    {"pass", "attempt"},
    {"pass", "status"},
    {"pass", "failure"},
    {"pass", "started_ms"},
    {"pass", "duration_s"},
    {"pass", "value"},
    {"pass", "frames"},
    {"pass", "output"},
    {"pass", "loads"},
    {"pass", "others_busy"},
    {"pass", "settings"},
    {"pass", "samples"},
    {"pass", "presentation"},
    {"pass", "typed"},
    {"pass", "origin"},
    {"pass", "frame_count"},
    {"event", "at_ms"},
    {"event", "person"},
    {"event", "kind"},
    {"event", "subject"},
    {"event", "text"},
    {"capture", "visit_id"},
    {"capture", "moment"},
    {"capture", "facts"},
    {"measurement", "visit_id"},
    {"measurement", "moment"},
    {"measurement", "readings"},
    {"visit", "id"},
    {"frame_channel", "pass_id"},
    {"frame_channel", "name"},
    {"frame_channel", "unit"},
    {"frame_channel", "frame_values"},
}};

// One field of one row, or of all, becomes a number, a text, bytes or NULL; the sums are made to hold.
void changeField(Database& database, Bytes& bytes) {
  const auto& [table, column] = kFields[bytes.take() % kFields.size()];
  const std::uint8_t row = bytes.take();
  const std::string which = row % 8 == 7 ? "" : fmt::format(" WHERE id = {}", row % 8 + 1);
  const std::uint8_t kind = bytes.take() % 6;
  auto statement =
      database.prepare(kind == 5 ? fmt::format("UPDATE {0} SET {1} = replace({1}, ?1, ?2){2}", table, column, which)
                                 : fmt::format("UPDATE {} SET {} = ?1{}", table, column, which));
  if (!statement) return;
  switch (kind) {
    case 0: statement->bind(1, static_cast<std::int64_t>(static_cast<std::int8_t>(bytes.take()))); break;
    case 1: statement->bind(1, static_cast<std::int64_t>(bytes.number(8))); break;
    case 2: {
      const std::uint64_t bits = bytes.number(8);
      double value = 0;
      std::memcpy(&value, &bits, sizeof value);
      statement->bind(1, value);
      break;
    }
    case 3: statement->bind(1, std::string_view(bytes.text())); break;
    case 4: statement->bind(1, store::Blob{bytes.text()}); break;
    default: statement->bind(1, std::string_view(bytes.text())).bind(2, std::string_view(bytes.text())); break;
  }
  (void)stepOnce(*statement);
  (void)database.execute(fmt::format("UPDATE {} SET sum = row_sum({})", table, store::summedColumns(table)));
}

void changeFields(Database& database, Bytes& bytes) {
  for (int i = 0; i < 6 && !bytes.isEmpty(); ++i) changeField(database, bytes);
}

// Where nobody's locks and sums stand in the way.
bool makeFree(Database& database) {
  return store::addRowSum(database) &&
         database.execute("PRAGMA foreign_keys = OFF; PRAGMA synchronous = OFF; PRAGMA journal_mode = MEMORY").ok();
}

// Rows are the plan's, or they were refused or left out.
void demandThePlan(const core::Study& study, const store::Recorded& recorded) {
  const auto schedule = core::scheduleOf(study);
  for (const core::Visit& visit : recorded.visits)
    demand(std::any_of(schedule.begin(), schedule.end(), [&](const core::Slot& slot) {
      return slot.visit == visit.planned && slot.round == visit.round && slot.configuration == visit.configuration;
    }));
  for (const core::Pass& pass : recorded.passes) {
    if (pass.status != core::PassStatus::Finished) continue;
    demand(pass.slot < schedule.size());
    demand(recorded.visits.at(static_cast<std::size_t>(pass.visit_id) - 1).planned == schedule[pass.slot].visit);
  }
}

// JSON and report say what the judgement says.
void demandOneVerdict(const core::Study& study, const core::Record& record, const core::Judgement& judgement) {
  const auto json = report::findingsJson(study, record, judgement);
  const std::string claim = judgement.claim.sentence();
  demand(!claim.empty() && json.at("claim") == claim);
  for (std::size_t i = 0; i < json.at("cases").size(); ++i)
    if (json["cases"][i].contains("verdict"))
      demand(json["cases"][i]["verdict"] == core::verdictName(judgement.findings.cases.at(i).verdict));
  const auto page = report::htmlPage({study, record, judgement, "0", "2026-01-01"});
  if (!page) return;
  demand(!judgement.is_sealed && page->find("<h1>" + report::escaped(claim).substr(0, 5)) != std::string::npos);
  for (const core::CaseFinding& finding : judgement.findings.cases)
    demand(page->find(report::escaped(finding.title)) != std::string::npos);
}

void judge(store::StudyFile& file) {
  const auto recorded = file.recorded();
  if (!recorded) return;
  demandThePlan(file.study(), *recorded);
  const core::Record record = store::recordOf(*recorded);
  demandOneVerdict(file.study(), record, core::judgementOf(file.study(), record));
  for (const core::Pass& pass : recorded->passes) {
    (void)file.frames(pass.id);
    (void)file.samples(pass.id);
  }
}

/// A file that stays open, and is as it was again before each change: opening it would take most of the time.
class KeptFile {
 public:
  explicit KeptFile(const std::string& valid) : valid_(valid), path_(ownPath("-kept.ironlever")) {
    std::ofstream(path_, std::ios::binary) << valid_;
    changer_.emplace(*Database::open(path_, Database::Mode::OpenExisting));
    if (!makeFree(*changer_)) std::abort();
    reader_.emplace(*store::StudyFile::open(path_));
  }
  void judgeChanged(Bytes& bytes) {
    restore();
    changeFields(*changer_, bytes);
    judge(*reader_);
  }

 private:
  // With another number of changes in its header, so that nobody takes what they know of it for current.
  void restore() {
    constexpr std::size_t kCounter = 24;
    changes_ += 1000;
    for (int i = 0; i < 4; ++i)
      valid_[kCounter + static_cast<std::size_t>(i)] = static_cast<char>(changes_ >> (24 - 8 * i));
    std::fstream file(path_, std::ios::binary | std::ios::in | std::ios::out);
    file << valid_;
    file.close();
    std::filesystem::resize_file(path_, valid_.size());
  }

  std::string valid_;
  std::string path_;
  std::uint32_t changes_ = 1U << 20U;
  std::optional<Database> changer_;
  std::optional<store::StudyFile> reader_;
};

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  static const std::string valid = validFile();
  static const std::string path = ownPath(".ironlever");
  static KeptFile kept(valid);
  Bytes bytes(data, size);
  const int flips = std::max(0, bytes.take() % 16 - 12);
  if (flips == 0) {
    kept.judgeChanged(bytes);
    return 0;
  }
  std::string content = valid;
  for (int i = 0; i < flips; ++i) content[bytes.number(3) % content.size()] ^= static_cast<char>(bytes.take());
  std::ofstream(path, std::ios::binary) << content;
  std::filesystem::remove(path + "-journal");
  {
    auto database = Database::open(path, Database::Mode::OpenExisting);
    if (database && makeFree(*database)) changeFields(*database, bytes);
  }
  if (auto file = store::StudyFile::open(path)) judge(*file);
  return 0;
}
