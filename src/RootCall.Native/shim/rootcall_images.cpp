// The wall behind which images are decoded (wall.h): one image at a time, without any cache that is shared between threads.
//
// It reads requests on standard input and answers on standard output, both as the structures below in this machine's byte
// order. Pixels lie in a memory file that it makes once (SHARED bytes) and names in its first answer; they are 32-bit
// floats, row by row, channels together: 0 to 1 for integers, as stored for floating point, alpha not premultiplied. A
// reduced image is the look, then the samples, then a picture as a PNG. To be encoded, linear red, green and blue are put
// there by whoever asks; the file's bytes take their place. A larger file is begun, given its rows some at a time, ended, and
// taken in parts as large as the memory.
//
// Usage: rootcall-images MEMORY SHARED, both in bytes.
#include "wall.h"

#include <OpenImageIO/color.h>
#include <OpenImageIO/filesystem.h>
#include <OpenImageIO/imageio.h>

#include <sys/mman.h>
#include <sys/stat.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstdlib>
#include <memory>
#include <string>
#include <vector>

using namespace OIIO;
using wall::Refusal;
using wall::Status;

namespace {

enum class Kind : uint32_t { Reduce = 0, Open = 1, Next = 2, Encode = 3, Begin = 4, Put = 5, End = 6, Take = 7 };

struct Request {
    Kind kind;
    uint32_t side;     // of the picture: most pixels along its longer side; its width, to be encoded
    uint32_t grid;     // most samples across and down; its height, to be encoded; rows that are put; where to take bytes from, in parts
    uint32_t length;   // bytes of the path that follows
    uint64_t bytes;    // most that the image may hold when decoded
    uint32_t seconds;  // of processor time
    uint32_t form;     // of a file that is begun: channels, and 16 times the bits of each (32 for floating point)
};

struct Answer {
    Status status;
    int32_t width, height, channels, is_float;
    int32_t picked;   // channels of what is reduced: 1 to 4
    int32_t grid[2];  // width, height
    int32_t picture;  // bytes of the PNG, or of the file
    int32_t rows;     // in the shared memory; 0 at the end
    uint32_t length;  // bytes of the sentence that follows
};

constexpr int kLookWidth = 9, kLookHeight = 8;

uint64_t memory_limit;
uint64_t shared_bytes;
float* shared;

// The places of red, green, blue and alpha: by name where the file names them (layered EXR), else the first channels.
struct Order {
    int place[4];
    int count;
};

Order order_of(const ImageSpec& spec) {
    auto named = [&](const char* name, int fallback) {
        int index = spec.channelindex(name);
        return index >= 0 ? index : fallback;
    };
    if (spec.nchannels < 3) return { { 0, 1, 2, 3 }, spec.nchannels == 2 && spec.alpha_channel < 0 ? 1 : spec.nchannels };
    return { { named("R", 0), named("G", 1), named("B", 2), std::max(spec.alpha_channel, 0) }, spec.alpha_channel >= 0 ? 4 : 3 };
}

// An image that is read from top to bottom, a few rows at a time.
class Rows {
public:
    Rows(const std::string& path, uint64_t most_bytes) {
        struct stat file;
        if (stat(path.c_str(), &file) != 0) throw Refusal(Status::NoFile, "is not there");
        if (!S_ISREG(file.st_mode)) throw Refusal(Status::NoFile, "is no regular file");
        ImageSpec wishes;
        wishes["oiio:UnassociatedAlpha"] = 1;
        input = ImageInput::open(path, &wishes);
        if (!input) throw Refusal(Status::Unsupported, geterror());
        const ImageSpec& s = spec();
        if (s.width <= 0 || s.height <= 0 || s.nchannels <= 0) throw Refusal(Status::Damaged, "declares no pixels");
        uint64_t row = static_cast<uint64_t>(s.width) * s.nchannels, stored = std::max<uint64_t>(1, s.format.size());
        if (row > most_bytes / stored / s.height) throw Refusal(Status::TooLarge, "declares more than is decoded");
        // Readers that hold the whole image hold it as stored, and once more while it is unpacked.
        if (holds_all() && row * s.height * stored * 2 > memory_limit) throw Refusal(Status::TooLarge, "needs more memory than is given");
    }

    const ImageSpec& spec() const { return input->spec(); }

    // Rows that the next call gives when `capacity` floats of `channels` channels each fit.
    int height_of_strip(uint64_t capacity, int channels) const {
        uint64_t row = static_cast<uint64_t>(spec().width) * channels, rows = capacity / row;
        uint64_t tile = std::max(1, spec().tile_height);
        if (rows < tile) throw Refusal(Status::TooLarge, "has rows longer than are decoded");
        return static_cast<int>(std::min<uint64_t>(rows / tile * tile, spec().height - next));
    }

    // Reads channels `from` to `to` of the next `count` rows.
    void read(float* to_place, int count, int from, int to) {
        const ImageSpec& s = spec();
        int first = s.y + next, last = first + count;
        bool read = s.tile_width > 0
            ? input->read_tiles(0, 0, s.x, s.x + s.width, first, last, s.z, s.z + 1, from, to, TypeDesc::FLOAT, to_place)
            : input->read_scanlines(0, 0, first, last, s.z, from, to, TypeDesc::FLOAT, to_place);
        if (!read) throw Refusal(Status::Damaged, input->geterror());
        next += count;
    }

    int next = 0;

private:
    bool holds_all() const {
        std::string name = input->format_name();
        return name == "webp" || name == "targa" || name == "dds" || name == "psd" || name == "gif";
    }

    std::unique_ptr<ImageInput> input;
};

// Takes rows in and gives the mean of the pixels under each pixel of a smaller (or larger) picture.
class Reducer {
public:
    Reducer(int from_width, int from_height, int width, int height, int channels)
        : across(spans(from_width, width)), down(spans(from_height, height)), width(width), height(height), channels(channels),
          row(static_cast<size_t>(width) * channels), sums(row.size() * height) {}

    void add(const float* pixels, int stride, const int* place, int y) {
        std::fill(row.begin(), row.end(), 0.0);
        // A loop a channel keeps what it adds to in a register: this is what most of the time goes into.
        for (int c = 0; c < channels; ++c) {
            const float* values = pixels + place[c];
            for (const Span& span : across) {
                float value = values[static_cast<size_t>(span.from) * stride];
                if (std::isfinite(value)) row[static_cast<size_t>(span.to) * channels + c] += value * span.share;
            }
        }
        for (; at < down.size() && down[at].from == y; ++at)
            for (size_t i = 0; i < row.size(); ++i) sums[down[at].to * row.size() + i] += row[i] * down[at].share;
    }

    std::vector<float> means() const { return { sums.begin(), sums.end() }; }

private:
    // A pixel `from` of the source covers a `share` of the pixel `to`.
    struct Span {
        int from, to;
        double share;
    };

    static std::vector<Span> spans(int count, int made) {
        std::vector<Span> all;
        for (int from = 0; from < count; ++from) {
            double start = static_cast<double>(from) * made / count, end = static_cast<double>(from + 1) * made / count;
            for (int to = static_cast<int>(start); to < made && to < end; ++to)
                all.push_back({ from, to, std::min<double>(end, to + 1) - std::max<double>(start, to) });
        }
        return all;
    }

    std::vector<Span> across, down;
    int width, height, channels;
    std::vector<double> row, sums;
    size_t at = 0;
};

void describe(const ImageSpec& spec, Answer& answer) {
    answer.width = spec.width, answer.height = spec.height, answer.channels = spec.nchannels;
    answer.is_float = spec.format.is_floating_point();
}

// A PNG of values, of linear light as a display shows it.
std::vector<unsigned char> png(std::vector<float> values, int width, int height, int channels, bool linear) {
    int colours = channels > 2 ? 3 : 1;
    for (size_t i = 0; linear && i < values.size(); ++i)
        if (static_cast<int>(i % channels) < colours) values[i] = linear_to_sRGB(std::clamp(values[i], 0.0f, 1.0f));
    std::vector<unsigned char> bytes;
    Filesystem::IOVecOutput memory(bytes);
    auto out = ImageOutput::create("png");
    if (!out || !out->set_ioproxy(&memory)) throw std::runtime_error("no picture can be written");
    ImageSpec spec(width, height, channels, TypeDesc::UINT8);
    spec.alpha_channel = channels % 2 == 0 ? channels - 1 : -1;
    spec["oiio:UnassociatedAlpha"] = 1;
    if (!out->open("picture.png", spec) || !out->write_image(TypeDesc::FLOAT, values.data()) || !out->close())
        throw std::runtime_error(out->geterror());
    return bytes;
}

// One pass gives a small picture, a tiny one to be known by, and stored values on an even grid.
void reduce(const std::string& path, const Request& request, Answer& answer) {
    Rows rows(path, request.bytes);
    const ImageSpec& spec = rows.spec();
    describe(spec, answer);
    Order order = order_of(spec);
    double scale = std::min(1.0, static_cast<double>(request.side) / std::max(spec.width, spec.height));
    int width = std::max(1, static_cast<int>(std::lround(spec.width * scale)));
    int height = std::max(1, static_cast<int>(std::lround(spec.height * scale)));
    int across = std::min<int>(request.grid, spec.width), down = std::min<int>(request.grid, spec.height);
    uint64_t floats = (static_cast<uint64_t>(width) * height + kLookWidth * kLookHeight + static_cast<uint64_t>(across) * down) * 4;
    if (floats * sizeof(float) > shared_bytes) throw Refusal(Status::TooLarge, "was asked for more than can be given");
    Reducer picture(spec.width, spec.height, width, height, order.count);
    std::vector<float> grid(static_cast<size_t>(across) * down * order.count);

    // Only the channels in between are asked for: a layered file has hundreds.
    int from = *std::min_element(order.place, order.place + order.count);
    int to = *std::max_element(order.place, order.place + order.count) + 1, stride = to - from;
    for (int& place : order.place) place -= from;
    constexpr uint64_t kStrip = 4 << 20;
    uint64_t row = static_cast<uint64_t>(spec.width) * stride;
    uint64_t capacity = std::max<uint64_t>(kStrip, row * std::max(1, spec.tile_height));
    if (capacity * sizeof(float) > memory_limit / 2) throw Refusal(Status::TooLarge, "has rows longer than are decoded");
    int least = rows.height_of_strip(capacity, stride);
    std::vector<float> strip(row * least);
    int grid_row = 0;
    while (rows.next < spec.height) {
        int first = rows.next, count = rows.height_of_strip(capacity, stride);
        rows.read(strip.data(), count, from, to);
        for (int i = 0; i < count; ++i) {
            const float* pixels = strip.data() + row * i;
            picture.add(pixels, stride, order.place, first + i);
            for (; grid_row < down && static_cast<int>((grid_row + 0.5) * spec.height / down) == first + i; ++grid_row)
                for (int x = 0; x < across; ++x)
                    for (int c = 0; c < order.count; ++c)
                        grid[(static_cast<size_t>(grid_row) * across + x) * order.count + c]
                            = pixels[static_cast<size_t>((x + 0.5) * spec.width / across) * stride + order.place[c]];
        }
    }
    answer.picked = order.count;
    answer.grid[0] = across, answer.grid[1] = down;
    std::vector<float> means = picture.means();
    constexpr int kAll[] = { 0, 1, 2, 3 };
    Reducer look(width, height, kLookWidth, kLookHeight, order.count);
    for (int y = 0; y < height; ++y) look.add(&means[static_cast<size_t>(y) * width * order.count], order.count, kAll, y);
    std::vector<float> tiny = look.means();
    std::vector<unsigned char> small = png(std::move(means), width, height, order.count, spec.format.is_floating_point());
    answer.picture = static_cast<int32_t>(small.size());
    float* end = std::copy(grid.begin(), grid.end(), std::copy(tiny.begin(), tiny.end(), shared));
    std::copy(small.begin(), small.end(), reinterpret_cast<unsigned char*>(end));
}

// OpenEXR, 32-bit floats, linear with the primaries of IEC 61966-2-1.
// The path says only the format, by its extension.
void encode(const Request& request, const std::string& path, Answer& answer) {
    uint64_t floats = static_cast<uint64_t>(request.side) * request.grid * 3;
    if (floats == 0 || floats * sizeof(float) > shared_bytes) throw Refusal(Status::TooLarge, "is larger than is encoded");
    auto out = ImageOutput::create(path);
    if (!out || !out->supports("ioproxy")) throw Refusal(Status::Unsupported, "cannot be encoded so");
    std::vector<unsigned char> bytes;
    Filesystem::IOVecOutput stream(bytes);
    ImageSpec spec(static_cast<int>(request.side), static_cast<int>(request.grid), 3, TypeDesc::FLOAT);
    if (out->supports("multiimage")) spec.attribute("compression", "zip");
    Filesystem::IOProxy* proxy = &stream;
    spec.attribute("oiio:ioproxy", TypeDesc::PTR, &proxy);
    if (!out->open(path, spec) || !out->write_image(TypeDesc::FLOAT, shared) || !out->close())
        throw Refusal(Status::Damaged, "is not encoded: " + out->geterror());
    if (bytes.size() > shared_bytes) throw Refusal(Status::TooLarge, "is larger than is encoded");
    answer.picture = static_cast<int32_t>(bytes.size());
    std::copy(bytes.begin(), bytes.end(), reinterpret_cast<unsigned char*>(shared));
}

// A file that is given its rows from top to bottom, and is kept in memory: nothing is written here.
class Written {
public:
    Written(const Request& request, const std::string& path) : stream(bytes), out(ImageOutput::create(path)) {
        int channels = static_cast<int>(request.form & 15), bits = static_cast<int>(request.form >> 4);
        if (!out || !out->supports("ioproxy") || channels < 1 || channels > 4) throw Refusal(Status::Unsupported, "cannot be encoded so");
        TypeDesc type = TypeDesc::FLOAT;
        if (bits == 8) type = TypeDesc::UINT8;
        if (bits == 16) type = TypeDesc::UINT16;
        spec = ImageSpec(static_cast<int>(request.side), static_cast<int>(request.grid), channels, type);
        spec.attribute("oiio:UnassociatedAlpha", 1);
        spec.attribute("compression", "zip");
        Filesystem::IOProxy* proxy = &stream;
        spec.attribute("oiio:ioproxy", TypeDesc::PTR, &proxy);
        if (!out->open(path, spec)) throw Refusal(Status::Unsupported, "is not encoded: " + out->geterror());
    }

    void put(uint32_t rows) {
        uint64_t size = static_cast<uint64_t>(rows) * spec.width * spec.nchannels * sizeof(float);
        if (next + static_cast<int64_t>(rows) > spec.height || size > shared_bytes)
            throw Refusal(Status::TooLarge, "has more rows than it was begun with");
        if (!out->write_scanlines(next, next + static_cast<int>(rows), 0, TypeDesc::FLOAT, shared))
            throw Refusal(Status::Damaged, "is not encoded: " + out->geterror());
        next += static_cast<int>(rows);
    }

    void end(Answer& answer) {
        if (next != spec.height || !out->close()) throw Refusal(Status::Damaged, "is not encoded: " + out->geterror());
        if (bytes.size() > INT32_MAX) throw Refusal(Status::TooLarge, "is larger than is encoded");
        answer.picture = static_cast<int32_t>(bytes.size());
    }

    void take(uint32_t part) const {
        uint64_t from = std::min<uint64_t>(part * shared_bytes, bytes.size());
        std::copy_n(bytes.begin() + static_cast<int64_t>(from), std::min<uint64_t>(shared_bytes, bytes.size() - from),
                    reinterpret_cast<unsigned char*>(shared));
    }

private:
    std::vector<unsigned char> bytes;
    Filesystem::IOVecOutput stream;
    std::unique_ptr<ImageOutput> out;
    ImageSpec spec;
    int next = 0;
};

void next_rows(Rows& rows, Answer& answer) {
    describe(rows.spec(), answer);
    int channels = rows.spec().nchannels;
    if (rows.next >= rows.spec().height) return;
    answer.rows = rows.height_of_strip(shared_bytes / sizeof(float), channels);
    rows.read(shared, answer.rows, 0, channels);
}

struct Work {
    std::unique_ptr<Rows> open;
    std::unique_ptr<Written> written;
};

void answer_one(Work& work, const Request& request, const std::string& path, Answer& answer) {
    wall::limit_time(request.seconds);
    if (request.kind != Kind::Next) work.open.reset();
    if (request.kind < Kind::Put) work.written.reset();
    if (request.kind == Kind::Reduce)
        reduce(path, request, answer);
    else if (request.kind == Kind::Encode)
        encode(request, path, answer);
    else if (request.kind == Kind::Open)
        describe((work.open = std::make_unique<Rows>(path, request.bytes))->spec(), answer);
    else if (request.kind == Kind::Next && work.open)
        next_rows(*work.open, answer);
    else if (request.kind == Kind::Begin)
        work.written = std::make_unique<Written>(request, path);
    else if (request.kind == Kind::Put && work.written)
        work.written->put(request.grid);
    else if (request.kind == Kind::End && work.written)
        work.written->end(answer);
    else if (request.kind == Kind::Take && work.written)
        work.written->take(request.grid);
}

}  // namespace

int main(int count, char** arguments) {
    if (count != 3) return 2;
    memory_limit = std::strtoull(arguments[1], nullptr, 10);
    shared_bytes = std::strtoull(arguments[2], nullptr, 10);
    wall::keep_quiet();
    attribute("threads", 1);
    attribute("exr_threads", 1);

    int file = memfd_create("rootcall-pixels", 0);
    if (file < 0 || ftruncate(file, static_cast<off_t>(shared_bytes)) != 0) return 2;
    void* mapped = mmap(nullptr, shared_bytes, PROT_READ | PROT_WRITE, MAP_SHARED, file, 0);
    if (mapped == MAP_FAILED) return 2;
    shared = static_cast<float*>(mapped);

    // The libraries themselves take half a gigabyte of addresses, a fifth of it writable.
    wall::raise(memory_limit + (256u << 20), memory_limit + shared_bytes + (1u << 30));

    wall::write_all(&file, sizeof file);
    Work work;
    for (std::string path, why;; why.clear()) {
        Request request;
        wall::read_all(&request, sizeof request);
        path.resize(request.length);
        wall::read_all(path.data(), path.size());
        Answer answer {};
        answer.status = wall::attempt(why, [&] { answer_one(work, request, path, answer); });
        if (answer.status != Status::Done) work = {};
        answer.length = static_cast<uint32_t>(why.size());
        wall::write_all(&answer, sizeof answer);
        wall::write_all(why.data(), why.size());
    }
}
