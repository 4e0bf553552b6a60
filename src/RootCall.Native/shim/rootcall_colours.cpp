// Reads a config of OpenColorIO and converts colours by it (through OpenImageIO), behind the wall: a config is text that somebody
// wrote, and calls for tables that somebody else wrote.
//
// A request's text has up to four lines: the config; then the space that the colours are in; then where they go, a space or a display
// and a view. Colours lie in the memory that is shared with whoever asks, and are converted in place.
//
// Usage: rootcall-colours MEMORY PIXELS, bytes and most pixels.
#include "wall.h"

#include <OpenImageIO/color.h>

#include <sys/mman.h>
#include <sys/stat.h>

#include <cmath>
#include <cstdlib>
#include <memory>
#include <sstream>
#include <string>
#include <vector>

using namespace OIIO;
using wall::Refusal;
using wall::Status;

namespace {

enum class Kind : uint32_t { Read = 0, Convert = 1, Show = 2 };

struct Request {
    Kind kind;
    uint32_t count;   // of pixels: three floats each
    uint32_t length;  // bytes of the text that follows
    uint32_t seconds;  // of processor time
};

struct Answer {
    Status status;
    uint32_t length;  // bytes of the text that follows: what was read, or a sentence
};

float* shared;
uint64_t most_pixels;

// The last config: it stays as long as the same is asked for.
std::string config_path;
std::unique_ptr<ColorConfig> config;

ColorConfig& config_of(const std::string& path) {
    if (config && path == config_path) return *config;
    config.reset();
    struct stat file;
    if (stat(path.c_str(), &file) != 0) throw Refusal(Status::NoFile, "is not there");
    if (!S_ISREG(file.st_mode)) throw Refusal(Status::NoFile, "is no regular file");
    if (file.st_size > (16 << 20)) throw Refusal(Status::TooLarge, "is larger than a config is");
    auto made = std::make_unique<ColorConfig>(path);
    if (made->has_error()) throw Refusal(Status::Damaged, "is no config that can be read: " + made->geterror());
    if (made->getNumColorSpaces() == 0) throw Refusal(Status::Damaged, "has no colour spaces");
    config_path = path;
    config = std::move(made);
    return *config;
}

// A record a line, its fields set apart by tabs.
std::string read(ColorConfig& c) {
    std::string text;
    for (const auto& name : c.getColorSpaceNames()) {
        text += "space\t" + name;
        for (const auto& alias : c.getAliases(name)) text += "\t" + alias;
        text += "\n";
    }
    for (const auto& role : c.getRoles())
        if (const char* space = c.getColorSpaceNameByRole(role)) text += "role\t" + role + "\t" + space + "\n";
    for (const auto& display : c.getDisplayNames())
        for (const auto& view : c.getViewNames(display)) text += "view\t" + display + "\t" + view + "\n";
    if (const char* display = c.getDefaultDisplayName())
        if (const char* view = c.getDefaultViewName(display)) text += std::string("default\t") + display + "\t" + view + "\n";
    return text;
}

void convert(const Request& request, const std::vector<std::string>& lines) {
    if (request.count > most_pixels) throw Refusal(Status::TooLarge, "is asked for more than is converted at once");
    auto& c = config_of(lines.at(0));
    auto by = request.kind == Kind::Show ? c.createDisplayTransform(lines.at(2), lines.at(3), lines.at(1))
                                         : c.createColorProcessor(lines.at(1), lines.at(2));
    if (!by) throw Refusal(Status::Unsupported, "does not convert so: " + c.geterror());
    by->apply(shared, static_cast<int>(request.count), 1, 3, sizeof(float), 3 * sizeof(float), request.count * 3 * sizeof(float));
    for (uint64_t i = 0; i < uint64_t { request.count } * 3; i++)
        if (!std::isfinite(shared[i])) shared[i] = 0;
}

}  // namespace

int main(int count, char** arguments) {
    if (count != 3) return 2;
    uint64_t memory = std::strtoull(arguments[1], nullptr, 10);
    most_pixels = std::strtoull(arguments[2], nullptr, 10);
    wall::keep_quiet();
    attribute("threads", 1);
    uint64_t bytes = most_pixels * 3 * sizeof(float);
    int file = memfd_create("rootcall-colours", 0);
    if (file < 0 || ftruncate(file, static_cast<off_t>(bytes)) != 0) return 2;
    void* mapped = mmap(nullptr, bytes, PROT_READ | PROT_WRITE, MAP_SHARED, file, 0);
    if (mapped == MAP_FAILED) return 2;
    shared = static_cast<float*>(mapped);
    wall::raise(memory + (256u << 20), memory + bytes + (1u << 30));
    wall::write_all(&file, sizeof file);
    for (std::string text, said;; said.clear()) {
        Request request;
        wall::read_all(&request, sizeof request);
        text.resize(request.length);
        wall::read_all(text.data(), text.size());
        std::vector<std::string> lines;
        std::istringstream from(text);
        for (std::string line; std::getline(from, line);) lines.push_back(line);
        wall::limit_time(request.seconds);
        Answer answer {};
        std::string found;
        answer.status = wall::attempt(said, [&] {
            if (request.kind == Kind::Read)
                found = read(config_of(lines.at(0)));
            else
                convert(request, lines);
        });
        if (answer.status == Status::Done) said = found;
        answer.length = static_cast<uint32_t>(said.size());
        wall::write_all(&answer, sizeof answer);
        wall::write_all(said.data(), said.size());
    }
}
