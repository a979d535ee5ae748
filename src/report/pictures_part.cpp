#include "report/pictures_part.h"

#include <fmt/format.h>

namespace report {

void writePictures(Html& page, const Source& source) {
  if (source.pictures.empty()) return;
  page.heading("Pictures that were kept");
  for (const ShownPicture& one : source.pictures)
    page.raw(
        fmt::format("<figure><img src=\"data:{};base64,{}\" alt=\"{}\" width=\"640\" "
                    "style=\"max-width:100%;height:auto\"><figcaption>{}</figcaption></figure>\n",
                    one.media_type, one.base64, escaped(one.caption), escaped(one.caption)));
}

}  // namespace report
