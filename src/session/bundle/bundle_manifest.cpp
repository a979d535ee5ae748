#include "session/bundle/bundle_manifest.h"

#include <QDate>
#include <cstdint>
#include <limits>
#include <stdexcept>

#include <nlohmann/json.hpp>

#include "store/json/json_text.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;
using nlohmann::json;
using nlohmann::ordered_json;

constexpr const char* kFormat = "iron-lever-bundle";
constexpr int kVersion = 1;

// Throws std::out_of_range for what counts nothing.
std::uint64_t countOf(const json& value, std::int64_t most) {
  const std::int64_t count = store::wholeNumberOf(value);
  if (count < 0 || count > most) throw std::out_of_range("a count is expected");
  return static_cast<std::uint64_t>(count);
}

Manifest read(const json& object) {
  Manifest manifest;
  manifest.making.program_version = object.at("program_version").get<std::string>();
  manifest.making.made_on = object.at("made_on").get<std::string>();
  for (const json& one : object.at("files"))
    manifest.files.push_back({one.at("name").get<std::string>(), one.at("sha256").get<std::string>(),
                              countOf(one.at("bytes"), std::numeric_limits<std::int64_t>::max())});
  for (const auto& [kind, count] : object.at("left_out").get_ref<const json::object_t&>())
    manifest.left_out[kind] = static_cast<int>(countOf(count, std::numeric_limits<int>::max()));
  return manifest;
}

}  // namespace

std::string manifestText(const Manifest& manifest) {
  ordered_json files = ordered_json::array();
  for (const ListedFile& one : manifest.files)
    files.push_back({{"name", one.name}, {"bytes", one.bytes}, {"sha256", one.sha256}});
  return store::jsonText(ordered_json{{"format", kFormat},
                                      {"version", kVersion},
                                      {"program_version", manifest.making.program_version},
                                      {"made_on", manifest.making.made_on},
                                      {"kept", keptNames(manifest.making.kept)},
                                      {"left_out", manifest.left_out},
                                      {"files", files}},
                         1) +
         '\n';
}

core::Result<Manifest> manifestFrom(const std::string& text) {
  const auto malformed = [](const std::string& why) {
    return Error{ErrorKind::Malformed, why, kManifest, "Ask for the bundle anew from whoever sealed it"};
  };
  try {
    const json object = store::parseSortedJson(text);
    if (object.at("format") != kFormat) return malformed("it is not the manifest of a bundle");
    if (object.at("version") != kVersion) return malformed("a newer program wrote it");
    Manifest manifest = read(object);
    const auto kept = keptFrom(object.at("kept").get<std::vector<std::string>>());
    if (!kept) return malformed(kept.error().what);
    manifest.making.kept = *kept;
    constexpr std::size_t kLongest = 40;
    if (!QDate::fromString(QString::fromStdString(manifest.making.made_on), Qt::ISODate).isValid() ||
        manifest.making.program_version.size() > kLongest)
      return malformed("its day or its version is none");
    return manifest;
  } catch (const std::exception& e) {
    return malformed(std::string("it is not the manifest of a bundle: ") + e.what());
  }
}

// For whoever finds it in ten years.
std::string readMeText(const std::map<std::string, int>& left_out) {
  std::string text =
      "This is a sealed study of Iron Lever: what was measured, and everything that follows from it.\n\n"
      "study.ironlever   the study, an SQLite 3 file: question, plan, passes, captures, decisions\n"
      "report.html       what it found, for reading; report.md is the same as plain text, chart.svg its picture\n"
      "findings.json     the same numbers for programs; findings.csv and passes.csv as tables\n"
      "captures/         what the bench was at each visit\n"
      "logs/             what each pass printed\n"
      "manifest.json     the SHA-256 of each file\n\n"
      "To have every number worked out again from the passes: iron-lever-cli verify THIS.zip\n"
      "It finds what was changed after the sealing, not what was made up before it. Whoever sealed it can name the\n"
      "64 digits at the end of the zip; keep them elsewhere.\n\n";
  const std::string kinds = leftOutText(left_out);
  return text +
         (kinds.empty() ? "Nothing personal was found to be left out.\n"
                        : "Left out, or called by number: " + kinds + ".\n") +
         "Names in what people wrote, and in what programs printed, are found only where they stand elsewhere too.\n";
}

}  // namespace session
