#pragma once

#include "session/far/message_stream.h"
#include "session/user/user_files.h"

namespace session {

/// The program at a bench that somebody's desk reaches over ssh: it answers what is asked on the stream until the
/// stream ends. It reads what a capture reads, keeps studies in a folder of this user's, and starts the sheet of one as
/// a process that outlives the connection, which runs what was approved here and nothing else. See docs/bench-end.md.
/// Errors  Malformed: what came is no message; it ends then
core::Status serveBenchEnd(MessageStream& stream, const UserFiles& files);

/// The answer to one ask that needs no more than a moment: everything but `follow`. Never fails: what is wrong is said
/// in it.
[[nodiscard]] FarJson answerAtBench(const FarJson& ask, const UserFiles& files);

}  // namespace session
