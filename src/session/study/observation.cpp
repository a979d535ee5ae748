#include "session/study/observation.h"

#include "session/study/visit_pictures.h"

namespace session {

using core::Error;
using core::ErrorKind;

core::Status observe(OpenStudy& open, const std::string& text, const std::string& picture_path) {
  if (text.find_first_not_of(" \t\r\n") == std::string::npos)
    return Error{ErrorKind::OutOfRange, "an empty observation says nothing", "observation", "Write what was noticed"};
  if (picture_path.empty()) return open.note(core::Observed{"", text});
  const auto picture = readPicture(picture_path);
  if (!picture) return picture.error();
  return open.note(core::Observed{picture->digest, text}, {}, picture->bytes);
}

}  // namespace session
