// What crosses between a desk and a bench, on both sides: bytes that claim to be messages, asks of any shape at the
// bench's end, answers of any shape at the desk. Whatever comes is a message, or is refused with a sentence; nothing is
// written but below the folder of the bench's end.
#include <sys/socket.h>
#include <unistd.h>

#include <filesystem>
#include <string>

#include "core/study/reach.h"
#include "fuzz/bytes.h"
#include "session/far/bench_end.h"
#include "session/far/ssh_link.h"

using fuzz::demand;

namespace {

void demandWords(const core::Error& error) { demand(!error.what.empty() && !error.sentence().empty()); }

void readAsStream(const std::string& bytes) {
  int ends[2];
  demand(::socketpair(AF_UNIX, SOCK_STREAM, 0, ends) == 0);
  demand(::write(ends[0], bytes.data(), bytes.size()) == static_cast<ssize_t>(bytes.size()));
  ::close(ends[0]);
  session::MessageStream stream(ends[1], ends[1]);
  for (auto message = stream.receive(session::farDeadlineIn(0));; message = stream.receive(session::farDeadlineIn(0))) {
    if (!message) {
      demandWords(message.error());
      break;
    }
    demand(message->is_object());
    demandWords(session::farErrorFrom(message->value("failed", session::FarJson())));
  }
  ::close(ends[1]);
}

/// Where the bench's end keeps what it is brought, while this process lives.
struct OwnFolder {
  std::string path = "/dev/shm/iron-lever-far-fuzz-" + std::to_string(::getpid());
  ~OwnFolder() {
    std::error_code code;
    std::filesystem::remove_all(path, code);
  }
};

void askAtBench(const std::string& text) {
  static const OwnFolder folder;
  static const session::UserFiles files = session::UserFiles::in(folder.path);
  const auto ask = session::farMessageFrom(text);
  if (!ask) return demandWords(ask.error());
  const auto what = ask->value("do", session::FarJson());
  if (what == "run" || what == "capture" || what == "hello") return;  // what these read and start is this machine's
  const session::FarJson answer = session::answerAtBench(*ask, files);
  demand(answer.is_object());
  if (const auto failed = answer.find("failed"); failed != answer.end()) demandWords(session::farErrorFrom(*failed));
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  fuzz::Bytes bytes(data, size);
  const unsigned which = bytes.take() % 4;
  const std::string text = bytes.rest();
  if (which == 0) readAsStream(text);
  if (which == 1) askAtBench(text);
  if (which == 2) demandWords(session::sshError("dome-node-3", 255, text));
  if (which == 3) {
    const auto reach = core::reachFrom(text);
    if (!reach)
      demandWords(reach.error());
    else
      demand(*core::reachFrom(core::reachText(*reach)) == *reach);
  }
  return 0;
}
