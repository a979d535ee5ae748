#include "core/values/fault.h"

#include <utility>

namespace core {

Error faultOf(const std::exception& thrown, std::string where) {
  return {ErrorKind::Malformed, std::string("the program met something that it was not made for: ") + thrown.what(),
          std::move(where),
          "What is recorded is safe in its file; keep the file and report this sentence with the program's version"};
}

}  // namespace core
