#include "core/values/result.h"

namespace core {

const char* errorKindName(ErrorKind kind) {
  switch (kind) {
    case ErrorKind::Missing: return "missing";
    case ErrorKind::Malformed: return "malformed";
    case ErrorKind::OutOfRange: return "out_of_range";
    case ErrorKind::TooFew: return "too_few";
    case ErrorKind::NewerFile: return "newer_file";
    case ErrorKind::ForeignFile: return "foreign_file";
    case ErrorKind::DamagedFile: return "damaged_file";
    case ErrorKind::DiskFull: return "disk_full";
    case ErrorKind::Io: return "io";
    case ErrorKind::Busy: return "busy";
    case ErrorKind::NotApproved: return "not_approved";
    case ErrorKind::NotAtLevel: return "not_at_level";
    case ErrorKind::Denied: return "denied";
    case ErrorKind::CommandFailed: return "command_failed";
    case ErrorKind::NotAllowed: return "not_allowed";
    case ErrorKind::Ambiguous: return "ambiguous";
    case ErrorKind::Away: return "away";
  }
  return "unknown";
}

std::string Error::sentence() const {
  std::string text = where.empty() ? what : where + ": " + what;
  if (!text.empty() && text.back() != '.') text += '.';
  if (!remedy.empty()) text += " " + remedy + (remedy.back() == '.' ? "" : ".");
  return text;
}

}  // namespace core
