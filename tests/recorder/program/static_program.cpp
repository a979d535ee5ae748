// A program into which nothing can be loaded.
#include <unistd.h>

int main() {
  usleep(600000);
  return 0;
}
