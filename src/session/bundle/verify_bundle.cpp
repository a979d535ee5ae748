#include <QCryptographicHash>
#include <QTemporaryDir>
#include <fstream>
#include <map>
#include <optional>

#include <fmt/format.h>

#include "session/bundle/bundle.h"
#include "session/bundle/bundle_manifest.h"
#include "session/bundle/number_differences.h"
#include "session/bundle/sealed_zip.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

constexpr std::size_t kMostTold = 100;
constexpr std::uint64_t kLargestRead = std::uint64_t{256} << 20;  // of what is read whole: a page, a log

class Check {
 public:
  explicit Check(SealedZip zip) : zip_(std::move(zip)) {}

  core::Result<BundleCheck> made() {
    check_.seal = zip_.seal();
    const auto sum = zip_.sum();
    if (!sum) return sum.error();
    if (*sum != zip_.seal()) differ("the bundle", zip_.seal(), *sum);
    placeEntries();
    if (const auto manifest = readManifest()) {
      holdAgainst(*manifest);
      const QTemporaryDir folder;
      if (!folder.isValid())
        return Error{ErrorKind::Io, "there is no folder for a copy of its study", "", "Free disk space"};
      workOut(*manifest, folder.filePath(QStringLiteral("study")).toStdString());
    }
    return std::move(check_);
  }

 private:
  void differ(std::string where, std::string printed, std::string recomputed) {
    if (check_.differences.size() < kMostTold)
      check_.differences.push_back({std::move(where), std::move(printed), std::move(recomputed)});
  }

  void placeEntries() {
    for (std::size_t i = 0; i < zip_.entries().size(); ++i) {
      const SealedZip::Entry& one = zip_.entries()[i];
      if (!one.refused.empty())
        differ(one.name, one.refused, "a file that is stored as it is");
      else if (!places_.emplace(one.name, i).second)
        differ(one.name, "two files of one name", "one");
    }
    check_.files = places_.size();
  }

  // Of one that cannot be read, or is larger than anything that is read whole: nothing, and it is told.
  std::optional<std::string> contentOf(const std::string& name) {
    const auto place = places_.find(name);
    if (place == places_.end()) {
      differ(name, "it is not there", "a file of the bundle");
      return std::nullopt;
    }
    if (zip_.entries()[place->second].size > kLargestRead) {
      differ(name, fmt::format("{} bytes", zip_.entries()[place->second].size), "at most 256 MiB");
      return std::nullopt;
    }
    std::string content;
    const auto read = zip_.read(place->second, [&](std::string_view piece) -> core::Status {
      content += piece;
      return core::Done{};
    });
    if (read) return content;
    differ(name, read.error().what, "bytes that hold together");
    return std::nullopt;
  }

  std::optional<Manifest> readManifest() {
    const auto text = contentOf(kManifest);
    if (!text) return std::nullopt;
    auto manifest = manifestFrom(*text);
    if (manifest) return *std::move(manifest);
    differ(kManifest, manifest.error().what, "a manifest of a bundle");
    return std::nullopt;
  }

  void holdAgainst(const Manifest& manifest) {
    std::map<std::string, const ListedFile*> listed;
    for (const ListedFile& one : manifest.files)
      if (!listed.emplace(one.name, &one).second) differ(kManifest, one.name + " twice", "once");
    for (const auto& [name, place] : places_)
      if (name != kManifest && !listed.contains(name)) differ(name, "a file", "it is not in the manifest");
    for (const auto& [name, one] : listed) {
      const auto place = places_.find(name);
      if (place == places_.end()) {
        differ(name, "it is not there", one->sha256);
        continue;
      }
      QCryptographicHash hash(QCryptographicHash::Sha256);
      const auto read = zip_.read(place->second, [&](std::string_view piece) -> core::Status {
        hash.addData(QByteArrayView(piece.data(), static_cast<qsizetype>(piece.size())));
        return core::Done{};
      });
      const std::string sum = read ? hash.result().toHex().toStdString() : read.error().what;
      if (sum != one->sha256) differ(name, one->sha256, sum);
    }
  }

  core::Status extractStudy(const std::string& path) {
    const auto place = places_.find(kBundledStudy);
    if (place == places_.end())
      return Error{ErrorKind::Missing, "it is not there", kBundledStudy, "Ask for the bundle anew"};
    std::ofstream file(path, std::ios::binary);
    return zip_.read(place->second, [&](std::string_view piece) -> core::Status {
      if (file.write(piece.data(), static_cast<std::streamsize>(piece.size())).flush()) return core::Done{};
      return Error{ErrorKind::Io, "its copy could not be written", path, "Free disk space"};
    });
  }

  // Everything that a study of ours says is worked out anew, and held against what lies there.
  void workOut(const Manifest& manifest, const std::string& path) {
    const auto told = [&](const Error& error) { differ(kBundledStudy, error.what, "a study that holds together"); };
    if (auto extracted = extractStudy(path); !extracted) return told(extracted.error());
    auto file = store::StudyFile::open(path);
    if (!file) return told(file.error());
    OpenStudy open(*std::move(file), {});
    if (auto read = open.read(); !read) return told(read.error());
    check_.passes = open.recorded().passes.size();
    for (const core::Pass& pass : open.recorded().passes)
      if (pass.is_damaged) differ(fmt::format("{}, pass {}", kBundledStudy, pass.id), pass.failure, "as it was filed");
    std::map<std::string, std::size_t> left = places_;
    for (const char* own : {kManifest, kBundledStudy}) left.erase(own);
    const auto hold = [&](const std::string& name, const std::string& recomputed) -> core::Status {
      left.erase(name);
      if (const auto printed = contentOf(name))
        check_.numbers += addDifferences(name, *printed, recomputed, kMostTold, check_.differences);
      return core::Done{};
    };
    (void)hold(kReadMe, readMeText(manifest.left_out));
    const auto worked = forEachBundleFile(open, manifest.making, hold);
    if (!worked) told(worked.error());
    for (const auto& [name, place] : left) differ(name, "a file", "nothing that follows from the study");
    tellVersion(manifest.making.program_version);
  }

  // First of all where anything differs: another version may word a page otherwise, and is no difference by itself.
  void tellVersion(const std::string& version) {
    if (check_.differences.empty() || version == IRON_LEVER_VERSION) return;
    check_.differences.insert(check_.differences.begin(),
                              {fmt::format("{}, program_version", kManifest), version, IRON_LEVER_VERSION});
    check_.differences.resize(std::min(check_.differences.size(), kMostTold));
  }

  SealedZip zip_;
  BundleCheck check_;
  std::map<std::string, std::size_t> places_;
};

}  // namespace

core::Result<BundleCheck> verifyBundle(const std::string& path) {
  auto zip = SealedZip::open(path);
  if (zip) return Check(*std::move(zip)).made();
  if (zip.error().kind == ErrorKind::Missing || zip.error().kind == ErrorKind::Io) return zip.error();
  return BundleCheck{0, 0, 0, {{path, zip.error().what, "a sealed bundle"}}, {}};
}

}  // namespace session
