#include "session/practice/exercise.h"

#include <QDir>
#include <QFile>
#include <algorithm>
#include <cmath>
#include <fstream>
#include <random>

#include "core/values/sealed_text.h"
#include "store/json/json_text.h"

// Outside any namespace, as the macro demands; a static library's resources are not found by themselves.
static void initExerciseResources() { Q_INIT_RESOURCE(exercises); }

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::json;

constexpr std::size_t kLargest = 256 * 1024;
constexpr const char* kDescribed = "Compare it with docs/practice.md";

Error malformed(const std::string& what, const std::string& source) {
  return {ErrorKind::Malformed, what, source, kDescribed};
}

// What stands in no file that is handed to somebody who is to solve it.
constexpr const char* kHidden[] = {"draws", "percent", "truth", "take_away"};

core::Result<nlohmann::ordered_json> objectOf(std::string_view text, const std::string& source) {
  if (text.size() > kLargest)
    return Error{ErrorKind::OutOfRange, "an exercise has at most 256 KiB", source, kDescribed};
  auto object = store::parseJson(text);
  if (!object.is_object()) return malformed("this is not a JSON object", source);
  if (const auto sealed = object.find("sealed"); sealed != object.end()) {
    const auto opened = sealed->is_string() ? core::unsealedText(sealed->get<std::string>()) : std::nullopt;
    const auto hidden = opened ? store::parseJson(*opened) : nlohmann::ordered_json();
    if (!hidden.is_object()) return malformed("its seal does not hold: it was changed, or cut short", source);
    object.update(hidden);
  }
  return object;
}

/// Reads texts of an object, and remembers the first that is not there.
class Fields {
 public:
  Fields(const nlohmann::ordered_json& object, std::string source) : object_(object), source_(std::move(source)) {}
  std::string text(const char* name, bool is_needed = true) {
    constexpr std::size_t kLongest = 600;
    const auto found = object_.find(name);
    if (found == object_.end() && !is_needed) return {};
    if (found != object_.end() && found->is_string() && found->get<std::string>().size() <= kLongest)
      return found->get<std::string>();
    if (!error_) error_ = malformed(std::string("a short text is expected for ") + name, source_);
    return {};
  }
  [[nodiscard]] const std::optional<Error>& error() const { return error_; }

 private:
  const nlohmann::ordered_json& object_;
  std::string source_;
  std::optional<Error> error_;
};

core::Result<PracticeFlip> flipFrom(const std::string& word, const std::string& source) {
  if (word.empty() || word == "program") return PracticeFlip::Program;
  if (word == "menu") return PracticeFlip::Menu;
  if (word == "part") return PracticeFlip::Part;
  return malformed("flip is program, menu or part", source);
}

bool areDraws(const json& draws) {
  return draws.is_object() && std::all_of(draws.begin(), draws.end(), [](const json& one) {
           return one.is_array() && one.size() == 2 && one[0].is_number() && one[1].is_number() &&
                  std::isfinite(one[0].get<double>()) && std::abs(one[0].get<double>()) <= 1000 &&
                  std::abs(one[1].get<double>()) <= 1000 && one[0] <= one[1];
         });
}

std::string resourceText(const QString& name) {
  QFile file(QStringLiteral(":/exercises/") + name);
  return file.open(QIODevice::ReadOnly) ? file.readAll().toStdString() : std::string();
}

// The value of a name that was drawn, "-" before it for its opposite; a number is itself.
std::optional<double> valueOf(const json& place, const std::map<std::string, double>& drawn) {
  if (place.is_number()) return place.get<double>();
  if (!place.is_string()) return std::nullopt;
  std::string name = place.get<std::string>();
  const double sign = name.starts_with('-') ? -1 : 1;
  if (sign < 0) name.erase(0, 1);
  const auto found = drawn.find(name);
  if (found == drawn.end()) return std::nullopt;
  return sign * found->second;
}

// Factors on times: a rate that is 25 % higher takes 0.8 times as long. Whoever loses P % of the rate likewise.
std::optional<json> placeOf(const std::string& how, const json& of, const std::map<std::string, double>& drawn) {
  const auto value = valueOf(of, drawn);
  if (!value) return std::nullopt;
  constexpr double kHundred = 100;
  if (how == "factor_of") return json(1 / (1 + *value / kHundred));
  if (how == "slower_by") return json(1 / (1 - *value / kHundred));
  if (how == "hundredth_of") return json(*value / kHundred);
  if (how == "whole_of") return json(static_cast<std::int64_t>(std::llround(*value)));
  return std::nullopt;
}

// Everything of a truth, with what was drawn put in its places; false where a place names nothing.
bool putIn(json& node, const std::map<std::string, double>& drawn) {
  if (node.is_object() && node.size() == 1) {
    const std::string how = node.begin().key();
    if (how.ends_with("_of") || how == "slower_by") {
      const auto value = placeOf(how, node.begin().value(), drawn);
      if (!value) return false;
      node = *value;
      return true;
    }
  }
  if (!node.is_structured()) return true;
  return std::all_of(node.begin(), node.end(), [&](json& one) { return putIn(one, drawn); });
}

// A suite's mean change is that of the geometric mean.
std::optional<double> percentOf(const json& percent, const std::map<std::string, double>& drawn) {
  if (!percent.is_object()) return valueOf(percent, drawn);
  const auto parts = percent.find("mean_of");
  if (parts == percent.end() || !parts->is_array() || parts->empty()) return std::nullopt;
  double logs = 0;
  for (const json& one : *parts) {
    const auto value = valueOf(one, drawn);
    if (!value || *value <= -100) return std::nullopt;
    logs += std::log1p(*value / 100);
  }
  return 100 * std::expm1(logs / static_cast<double>(parts->size()));
}

}  // namespace

core::Result<Exercise> exerciseFrom(std::string_view text, const std::string& source) {
  const auto object = objectOf(text, source);
  if (!object) return object.error();
  Exercise exercise;
  Fields fields(*object, source);
  exercise.id = fields.text("id");
  exercise.title = fields.text("title");
  exercise.teaches = fields.text("teaches");
  exercise.story = fields.text("story");
  exercise.asks = fields.text("asks");
  exercise.take_away = fields.text("take_away");
  exercise.case_title = fields.text("case", false);
  exercise.from = fields.text("from", false);
  exercise.to = fields.text("to", false);
  const std::string flip = fields.text("flip", false);
  if (fields.error()) return *fields.error();
  const bool is_name = !exercise.id.empty() &&
                       exercise.id.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789-") == std::string::npos;
  if (!is_name || exercise.id.starts_with('-')) return malformed("an id has small letters, digits and hyphens", source);
  const auto flips = flipFrom(flip, source);
  if (!flips) return flips.error();
  exercise.flip = *flips;
  exercise.draws = object->value("draws", nlohmann::ordered_json::object());
  exercise.percent = object->value("percent", nlohmann::ordered_json());
  exercise.truth = object->value("truth", nlohmann::ordered_json());
  exercise.design = object->value("design", nlohmann::ordered_json());
  const auto restarts = object->value("restarts_first", nlohmann::ordered_json(0));
  constexpr int kMostRestarts = 40;
  if (!restarts.is_number_integer() || restarts < 0 || restarts > kMostRestarts)
    return malformed("restarts_first is a number up to 40", source);
  exercise.restarts_first = restarts.get<int>();
  const auto settings = object->value("settings", nlohmann::ordered_json::object());
  for (const auto& [level, assignment] : settings.items()) {
    constexpr std::size_t kMostSettings = 16;
    if (!assignment.is_string() || exercise.settings.size() >= kMostSettings)
      return malformed("settings has a text VARIABLE=LEVEL for each level", source);
    exercise.settings[level] = assignment.get<std::string>();
  }
  if (exercise.flip != PracticeFlip::Program && exercise.settings.empty())
    return malformed("a bench that a person sets needs settings", source);
  if (!areDraws(exercise.draws)) return malformed("draws has a range, [from, to], for each name", source);
  if (!exercise.truth.is_object() || !exercise.design.is_object())
    return malformed("truth and design are objects", source);
  if (const auto drawn = drawTruth(exercise, 1); !drawn) return drawn.error();
  return exercise;
}

core::Result<std::string> sealedExercise(std::string_view text, const std::string& source) {
  if (const auto fits = exerciseFrom(text, source); !fits) return fits.error();
  auto object = *objectOf(text, source);
  object.erase("sealed");
  nlohmann::ordered_json hidden = nlohmann::ordered_json::object();
  for (const char* name : kHidden)
    if (object.contains(name)) {
      hidden[name] = object[name];
      object.erase(name);
    }
  object["sealed"] = core::sealedText(store::jsonText(hidden));
  return store::jsonText(object, 1) + "\n";
}

std::vector<Exercise> exercises() {
  initExerciseResources();
  std::vector<Exercise> all;
  for (const QString& name : QDir(QStringLiteral(":/exercises")).entryList(QDir::Files, QDir::Name))
    if (auto one = exerciseFrom(resourceText(name), name.toStdString()); one && !one->isFree())
      all.push_back(*std::move(one));
  return all;
}

core::Result<Exercise> exerciseOf(const std::string& id) {
  initExerciseResources();
  std::string known;
  for (const QString& name : QDir(QStringLiteral(":/exercises")).entryList(QDir::Files, QDir::Name)) {
    const std::string one = name.mid(3).chopped(5).toStdString();  // 01-clean-gain.json
    if (one == id) return exerciseFrom(resourceText(name), id);
    known += (known.empty() ? "" : ", ") + one;
  }
  if (!QFileInfo::exists(QString::fromStdString(id)))
    return Error{ErrorKind::Missing, "there is no exercise '" + id + "'", "practice",
                 "Choose one of " + known + ", or name a file"};
  const auto text = exerciseText(id);
  return text ? exerciseFrom(*text, id) : core::Result<Exercise>(text.error());
}

core::Result<std::string> exerciseText(const std::string& path) {
  const QFileInfo about(QString::fromStdString(path));
  if (about.exists() && !about.isFile()) return malformed("this is not a regular file", path);
  std::ifstream file(path, std::ios::binary);
  if (!file) return Error{ErrorKind::Missing, "the exercise cannot be opened", path, "Check its name"};
  std::string text(kLargest + 1, '\0');
  file.read(text.data(), static_cast<std::streamsize>(text.size()));
  text.resize(static_cast<std::size_t>(file.gcount()));
  return text;
}

core::Result<DrawnTruth> drawTruth(const Exercise& exercise, std::uint64_t seed,
                                   const std::map<std::string, double>& chosen) {
  std::mt19937_64 engine(seed);
  DrawnTruth drawn;
  for (const auto& [name, range] : exercise.draws.items()) {
    const double share = static_cast<double>(engine() >> 11) * 0x1.0p-53;
    const auto from = range[0].get<double>();
    const auto given = chosen.find(name);
    drawn.drawn[name] = given == chosen.end() ? from + share * (range[1].get<double>() - from) : given->second;
  }
  drawn.truth = exercise.truth;
  constexpr std::uint64_t kSeeds = 1U << 31;
  drawn.truth["seed"] = engine() % kSeeds;
  if (!putIn(drawn.truth, drawn.drawn)) return malformed("the truth names something that is not drawn", exercise.id);
  const auto percent = percentOf(exercise.percent, drawn.drawn);
  if (!percent) return malformed("percent names something that is not drawn", exercise.id);
  drawn.percent = *percent;
  return drawn;
}

}  // namespace session
