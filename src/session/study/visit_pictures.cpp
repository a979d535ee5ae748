#include "session/study/visit_pictures.h"

#include <QCryptographicHash>
#include <algorithm>
#include <filesystem>
#include <string_view>

#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "store/files/regular_file.h"

namespace session {

using core::Error;
using core::ErrorKind;

std::string mediaTypeOf(const std::string& bytes) {
  using namespace std::string_view_literals;
  if (bytes.starts_with("\x89PNG\r\n\x1a\n"sv)) return "image/png";
  if (bytes.starts_with("\xff\xd8\xff"sv)) return "image/jpeg";
  return {};
}

core::Result<Picture> readPicture(const std::string& path) {
  constexpr std::uintmax_t kLargest = 16 * 1024 * 1024;
  auto bytes = store::contentsOf(path, kLargest);
  if (!bytes) return bytes.error();
  std::string type = mediaTypeOf(*bytes);
  if (type.empty())
    return Error{ErrorKind::Malformed, "this is not a picture that a report can show", path, "Save it as PNG or JPEG"};
  const QByteArray raw = QByteArray::fromRawData(bytes->data(), static_cast<qsizetype>(bytes->size()));
  std::string digest = QCryptographicHash::hash(raw, QCryptographicHash::Sha256).toHex().toStdString();
  return Picture{*std::move(bytes), std::move(type), std::move(digest)};
}

core::Status keepVisitPicture(OpenStudy& open, int planned_visit, const std::string& path) {
  const auto& visits = open.recorded().visits;
  const auto visit = std::find_if(visits.rbegin(), visits.rend(),
                                  [&](const core::Visit& one) { return one.planned == planned_visit; });
  if (visit == visits.rend())
    return Error{ErrorKind::Missing, "this visit was not begun yet", open.path(),
                 "Take the picture, and keep it once the visit runs"};
  const auto picture = readPicture(path);
  if (!picture) return picture.error();
  return open.file().addVisitPicture(
      {visit->id, picture->digest, std::filesystem::path(path).filename().string(), open.now(), open.person()},
      picture->bytes);
}

namespace {

KeptPicture pageReady(std::string caption, const std::string& bytes) {
  const QByteArray raw = QByteArray::fromRawData(bytes.data(), static_cast<qsizetype>(bytes.size()));
  return {std::move(caption), mediaTypeOf(bytes), raw.toBase64().toStdString()};
}

}  // namespace

core::Result<std::vector<KeptPicture>> keptPictures(OpenStudy& open) {
  const auto kept = open.file().visitPictures();
  if (!kept) return kept.error();
  std::vector<KeptPicture> pictures;
  for (const store::StudyFile::VisitPicture& one : *kept) {
    const auto bytes = open.file().pictureBytes(one.digest);
    if (!bytes) return bytes.error();
    std::string caption = core::shownLine(one.name);
    for (const core::Visit& visit : open.recorded().visits)
      if (visit.id == one.visit_id)
        caption = fmt::format("Visit {}, at {}: {}", visit.planned, open.study().nameOf(visit.configuration), caption);
    pictures.push_back(pageReady(std::move(caption), *bytes));
  }
  for (const store::Event& event : open.recorded().events) {
    const auto* observed = std::get_if<core::Observed>(&event.act);
    if (observed == nullptr || observed->picture.empty()) continue;
    const auto bytes = open.file().pictureBytes(observed->picture);
    if (!bytes && bytes.error().kind == ErrorKind::Missing) continue;  // a study without its pictures
    if (!bytes) return bytes.error();
    pictures.push_back(pageReady("Noticed: " + core::shownLine(observed->text), *bytes));
  }
  return pictures;
}

}  // namespace session
