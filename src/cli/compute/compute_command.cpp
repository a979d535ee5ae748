#include <istream>
#include <iterator>

#include "cli/commands.h"
#include "cli/compute/compute.h"
#include "store/json/json_text.h"

namespace cli {

core::Status computeCommand(const std::string& group, std::istream& in, std::ostream& out) {
  const std::string text(std::istreambuf_iterator<char>(in), {});
  const auto input = store::parseSortedJson(text);
  if (input.is_discarded())
    return core::Error{core::ErrorKind::Malformed, "standard input is not valid JSON", "compute " + group,
                       "Hand in one object { }"};
  const auto answer = compute(group, input);
  if (!answer) return answer.error();
  out << store::jsonText(*answer) << '\n';
  return core::Done{};
}

}  // namespace cli
