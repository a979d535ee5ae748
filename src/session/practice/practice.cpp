#include "session/practice/practice.h"

#include <unistd.h>

#include <QDateTime>
#include <QDir>
#include <QRandomGenerator>
#include <cmath>
#include <filesystem>
#include <fstream>

#include <fmt/format.h>

#include "core/findings/derived_studies.h"
#include "core/values/sealed_text.h"
#include "session/programs/simulated_bench.h"
#include "session/user/file_sum.h"
#include "session/user/output_file.h"
#include "store/json/json_text.h"
#include "store/json/study_json.h"
#include "store/study/study_file.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::json;

constexpr std::array kRecommendations{std::pair{Recommendation::Use, "use"}, std::pair{Recommendation::Keep, "keep"},
                                      std::pair{Recommendation::CannotSay, "cannot_say"}};

std::string aboutPath(const std::string& folder) { return folder + "/exercise.json"; }
std::string claimPath(const std::string& folder) { return folder + "/claim.json"; }

core::Result<json> readObject(const std::string& path, const std::string& why_missing) {
  std::ifstream file(path, std::ios::binary);
  if (!file)
    return Error{ErrorKind::Missing, why_missing, path, "Begin one with: iron-lever-cli practice start ID FOLDER"};
  constexpr std::size_t kMostOfFolder = 1 << 20;  // somebody else's folder may hold anything
  std::string text(kMostOfFolder + 1, '\0');
  file.read(text.data(), static_cast<std::streamsize>(text.size()));
  text.resize(static_cast<std::size_t>(file.gcount()));
  json object = text.size() > kMostOfFolder ? json() : store::parseSortedJson(text);
  if (!object.is_object())
    return Error{ErrorKind::Malformed, "this is not a JSON object of at most 1 MiB", path,
                 "Begin the exercise anew in another folder"};
  return object;
}

// Texts of the design in which a person's choices stand.
void putPace(nlohmann::ordered_json& node, const std::string& pace) {
  if (node.is_string() && node.get<std::string>() == "{pace}") node = pace;
  if (node.is_structured())
    for (auto& one : node) putPace(one, pace);
}

core::Status putPlan(nlohmann::ordered_json& design, const PracticeStart& start) {
  nlohmann::ordered_json& plan = design["plan"];
  if (plan.is_null()) plan = nlohmann::ordered_json::object();
  if (!plan.is_object()) return core::Done{};  // the design is refused with its place
  if (start.order) plan["order"] = *start.order;
  const auto order = plan.find("order");
  const bool is_rounds = order != plan.end() && *order == "rounds";
  if (start.rounds) plan[is_rounds ? "rounds" : "passes_per_level"] = *start.rounds;
  plan.erase(is_rounds ? "passes_per_level" : "rounds");
  if (!is_rounds) plan.erase("passes_per_visit");
  if (!start.passes_per_visit) return core::Done{};
  if (!is_rounds)
    return Error{ErrorKind::NotAllowed, "only rounds have passes a visit", "practice", "Choose the order rounds"};
  plan["passes_per_visit"] = *start.passes_per_visit;
  return core::Done{};
}

core::Status makeBench(const std::string& folder, const std::string& truth, const bench::BenchConnection& bench) {
  const std::string path = folder + "/bench.json";
  if (auto written = writeOutput(path, truth); !written) return written;
  auto made = runSimulatedBench(folder, {"init", "--state", folder + "/bench", "--truth", path}, bench);
  std::error_code code;
  std::filesystem::remove(path, code);  // the bench keeps its own
  return made;
}

core::Status makeStudies(const Exercise& exercise, const core::Study& study, const PracticeTry& about) {
  const auto seed = static_cast<int>(QRandomGenerator::global()->bounded(1 << 30));
  if (auto made = store::StudyFile::create(about.study, core::startedAnew(study, seed)); !made) return made.error();
  if (exercise.restarts_first == 0) return core::Done{};
  auto made = store::StudyFile::create(about.restarts_first,
                                       core::startedAnew(core::nullStudyOf(study, exercise.restarts_first), seed));
  if (!made) return made.error();
  return core::Done{};
}

json aboutJson(const PracticeTry& about, const std::string& sealed) {
  const auto name = [](const std::string& path) { return std::filesystem::path(path).filename().string(); };
  return {{"exercise", about.exercise},
          {"title", about.title},
          {"story", about.story},
          {"asks", about.asks},
          {"flip", static_cast<int>(about.flip)},
          {"study", name(about.study)},
          {"restarts_first", name(about.restarts_first)},
          {"settings", about.settings},
          {"truth_sha256", about.truth_sha256},
          {"sealed", sealed}};
}

std::string textIn(const json& object, const char* name) {
  const auto found = object.find(name);
  return found != object.end() && found->is_string() ? found->get<std::string>() : std::string();
}

core::Result<Exercise> begun(const PracticeStart& start) {
  auto exercise = exerciseOf(start.exercise);
  if (!exercise) return exercise;
  for (const auto& [name, value] : start.chosen)
    if (!exercise->isFree() || !exercise->draws.contains(name))
      return Error{ErrorKind::NotAllowed, "only free practice lets you choose, and nothing called " + name, "practice",
                   "Leave it out: it is drawn"};
  return exercise;
}

// What a start that failed has made goes, so that the same folder can be taken again.
void clear(const PracticeTry& about, const std::string& root, bool was_there) {
  std::error_code code;
  for (const std::string& made :
       {about.bench, root + "/bench.json", about.study, about.restarts_first, aboutPath(root)})
    if (!made.empty()) std::filesystem::remove_all(made, code);
  if (!was_there) std::filesystem::remove(root, code);
}

}  // namespace

const char* recommendationName(Recommendation recommendation) {
  return kRecommendations[static_cast<std::size_t>(recommendation)].second;
}

std::optional<Recommendation> recommendationFrom(std::string_view name) {
  for (const auto& [one, word] : kRecommendations)
    if (name == word) return one;
  return std::nullopt;
}

core::Result<PracticeTry> startPractice(const PracticeStart& start, const bench::BenchConnection& bench) {
  const auto exercise = begun(start);
  if (!exercise) return exercise.error();
  const QDir folder(QDir(QString::fromStdString(start.folder)).absolutePath());
  if (folder.exists() && !folder.isEmpty())
    return Error{ErrorKind::NotAllowed, "the folder is not empty", start.folder, "Choose a new one"};
  auto design = exercise->design;
  putPace(design, fmt::format("{}", start.pace));
  if (auto planned = putPlan(design, start); !planned) return planned.error();
  const auto study = store::newStudyFromJson(store::jsonText(design), "the exercise's design");
  if (!study) return study.error();
  const auto drawn = drawTruth(*exercise, QRandomGenerator::system()->generate64(), start.chosen);
  if (!drawn) return drawn.error();
  const bool was_there = folder.exists();
  if (!folder.mkpath(QStringLiteral(".")))
    return Error{ErrorKind::Io, "the folder cannot be made", start.folder, "Choose one that you may write to"};

  PracticeTry about;
  const std::string root = folder.path().toStdString();
  about.exercise = exercise->id;
  about.title = exercise->title;
  about.story = exercise->story;
  about.asks = exercise->asks;
  about.flip = exercise->flip;
  about.settings = exercise->settings;
  about.study = root + "/" + exercise->id + ".ironlever";
  if (exercise->restarts_first > 0) about.restarts_first = root + "/restarts-first.ironlever";
  about.bench = root + "/bench";
  const json hidden{{"truth", drawn->truth},
                    {"percent", drawn->percent},
                    {"drawn", drawn->drawn},
                    {"take_away", exercise->take_away},
                    {"case", exercise->case_title},
                    {"from", exercise->from},
                    {"to", exercise->to}};
  const std::string sealed = core::sealedText(store::jsonText(hidden));
  about.truth_sha256 = sha256OfBytes(sealed);
  core::Status made = makeBench(root, json{{"sealed", core::sealedText(store::jsonText(drawn->truth))}}.dump(), bench);
  if (made) made = makeStudies(*exercise, *study, about);
  if (made) made = writeOutput(aboutPath(root), store::jsonText(aboutJson(about, sealed), 1) + "\n");
  if (made) return about;
  clear(about, root, was_there);
  return made.error();
}

core::Result<PracticeTry> practiceIn(const std::string& folder) {
  const auto object = readObject(aboutPath(folder), "no exercise was begun in this folder");
  if (!object) return object.error();
  PracticeTry about;
  about.exercise = textIn(*object, "exercise");
  about.title = textIn(*object, "title");
  about.story = textIn(*object, "story");
  about.asks = textIn(*object, "asks");
  const auto flip = object->find("flip");
  if (flip != object->end() && flip->is_number_integer())
    about.flip = static_cast<PracticeFlip>(std::clamp(flip->get<int>(), 0, 2));
  const auto below = [&](const char* name) {
    const auto file = std::filesystem::path(textIn(*object, name)).filename().string();
    return file.empty() ? file : folder + "/" + file;
  };
  about.study = below("study");
  about.restarts_first = below("restarts_first");
  about.bench = folder + "/bench";
  const json settings = object->value("settings", json::object());
  for (const auto& [level, assignment] : settings.items())
    if (assignment.is_string()) about.settings[level] = assignment.get<std::string>();
  about.truth_sha256 = textIn(*object, "truth_sha256");
  about.is_signed = std::filesystem::exists(claimPath(folder));
  if (about.exercise.empty() || about.study.empty())
    return Error{ErrorKind::Malformed, "this is not what an exercise leaves", aboutPath(folder),
                 "Begin it anew in another folder"};
  return about;
}

core::Status setPracticeBench(const PracticeTry& about, const std::string& assignment,
                              const bench::BenchConnection& bench) {
  const std::string folder = std::filesystem::path(about.bench).parent_path();
  std::vector<std::string> words{"reboot", "--state", about.bench};
  if (!assignment.empty()) words = {"set", "--state", about.bench, assignment, "--reboot"};
  return runSimulatedBench(folder, words, bench);
}

core::Status signPractice(const std::string& folder, const PracticeClaim& claim) {
  const auto about = practiceIn(folder);
  if (!about) return about.error();
  constexpr double kMost = 1e6;
  const bool is_claim = std::isfinite(claim.percent) && std::isfinite(claim.lo) && std::isfinite(claim.hi) &&
                        claim.lo > -100 && claim.hi < kMost && claim.lo <= claim.percent && claim.percent <= claim.hi;
  if (!is_claim)
    return Error{ErrorKind::OutOfRange, "the percentage lies between the ends of its interval, all above -100", "sign",
                 "Say for example --percent 6 --lo 4.5 --hi 7.6"};
  const json object{{"percent", claim.percent}, {"lo", claim.lo},
                    {"hi", claim.hi},           {"recommend", recommendationName(claim.recommend)},
                    {"doubts", claim.doubts},   {"signed_ms", QDateTime::currentMSecsSinceEpoch()}};
  const std::string text = store::jsonText(object, 1) + "\n";
  // Made whole under another name, then put in place only where nothing is: of two at once one has signed.
  const std::string coming = claimPath(folder) + ".coming";
  if (auto written = writeOutput(coming, text); !written) return written;
  const bool is_placed = ::link(coming.c_str(), claimPath(folder).c_str()) == 0;
  const int failed = errno;
  ::unlink(coming.c_str());
  if (is_placed) return core::Done{};
  if (failed == EEXIST)
    return Error{ErrorKind::NotAllowed, "this claim is signed already: nobody changes it afterwards", folder,
                 "See what was true: iron-lever-cli practice reveal FOLDER"};
  return Error{ErrorKind::Io, "the claim cannot be written", folder, "Check the folder and the free space"};
}

core::Result<OpenedPractice> openPractice(const std::string& folder) {
  auto about = practiceIn(folder);
  if (!about) return about.error();
  if (!about->is_signed)
    return Error{ErrorKind::NotAllowed, "the truth is shown once a claim is signed", folder,
                 "Sign one: iron-lever-cli practice sign FOLDER --percent X --lo X --hi X --recommend use"};
  const auto kept = readObject(aboutPath(folder), "no exercise was begun in this folder");
  const auto said = readObject(claimPath(folder), "no claim was signed");
  if (!kept) return kept.error();
  if (!said) return said.error();
  const std::string sealed = textIn(*kept, "sealed");
  const auto text = core::unsealedText(sealed);
  const json hidden = text ? store::parseSortedJson(*text) : json();
  if (!hidden.is_object() || sha256OfBytes(sealed) != about->truth_sha256)
    return Error{ErrorKind::DamagedFile, "the sealed truth is not the one that was drawn", aboutPath(folder),
                 "Begin the exercise anew in another folder"};
  OpenedPractice opened;
  try {
    opened.truth.truth = hidden.at("truth");
    opened.truth.percent = hidden.at("percent").get<double>();
    opened.truth.drawn = hidden.at("drawn").get<std::map<std::string, double>>();
    opened.claim.percent = said->at("percent").get<double>();
    opened.claim.lo = said->at("lo").get<double>();
    opened.claim.hi = said->at("hi").get<double>();
  } catch (const json::exception&) {
    return Error{ErrorKind::Malformed, "this is not what an exercise leaves", folder,
                 "Begin it anew in another folder"};
  }
  opened.claim.recommend = recommendationFrom(textIn(*said, "recommend")).value_or(Recommendation::CannotSay);
  opened.claim.doubts = textIn(*said, "doubts");
  opened.exercise.id = about->exercise;
  opened.exercise.title = about->title;
  opened.exercise.take_away = textIn(hidden, "take_away");
  opened.exercise.case_title = textIn(hidden, "case");
  opened.exercise.from = textIn(hidden, "from");
  opened.exercise.to = textIn(hidden, "to");
  opened.about = *std::move(about);
  return opened;
}

}  // namespace session
