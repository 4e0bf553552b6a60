// The few image operations Root Call needs from OpenImageIO, behind a C interface. No exception crosses it: every
// function returns 0 on success, and otherwise writes one sentence into `error`.
#include <OpenImageIO/imagebuf.h>
#include <OpenImageIO/imagebufalgo.h>
#include <OpenImageIO/imageio.h>

#include <algorithm>
#include <cstring>
#include <exception>
#include <string>
#include <vector>

using namespace OIIO;

namespace {

int fail(char* error, int capacity, const std::string& message) {
    if (error && capacity > 0) {
        std::strncpy(error, message.c_str(), capacity - 1);
        error[capacity - 1] = '\0';
    }
    return 1;
}

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

// Three or four channels, whatever the file has.
ImageBuf pick_channels(const ImageBuf& source) {
    Order order = order_of(source.spec());
    if (source.spec().nchannels >= 3) {
        const int* p = order.place;
        return order.count == 4 ? ImageBufAlgo::channels(source, 4, { p[0], p[1], p[2], p[3] })
                                : ImageBufAlgo::channels(source, 3, { p[0], p[1], p[2] });
    }
    if (order.count == 2 && source.spec().alpha_channel == 1) return ImageBufAlgo::channels(source, 4, { 0, 0, 0, 1 });
    return ImageBufAlgo::channels(source, 3, { 0, 0, 0 });
}

// Opens and decodes an image, hands it to `work`, and lets no exception out. 0, or 1 with the reason in `error`.
template <typename Work>
int with_image(const char* path, long long most_pixels, bool as_float, char* error, int capacity, Work work) {
    try {
        ImageSpec config;
        config["oiio:UnassociatedAlpha"] = 1;
        ImageBuf source(path, 0, 0, nullptr, &config);
        if (!source.init_spec(path, 0, 0)) return fail(error, capacity, source.geterror());
        const ImageSpec& spec = source.spec();
        if (spec.width <= 0 || spec.height <= 0 || static_cast<long long>(spec.width) * spec.height > most_pixels)
            return fail(error, capacity, "declares more pixels than are decoded");
        if (!source.read(0, 0, true, as_float ? TypeDesc::FLOAT : TypeDesc::UNKNOWN)) return fail(error, capacity, source.geterror());
        std::string trouble = work(source);
        return trouble.empty() ? 0 : fail(error, capacity, trouble);
    } catch (const std::exception& e) {
        return fail(error, capacity, e.what());
    } catch (...) {
        return fail(error, capacity, "an unknown failure in the image library");
    }
}

}  // namespace

extern "C" __attribute__((visibility("default")))
int rootcall_thumbnail(const char* path, const char* output, int side, long long most_pixels, char* error, int capacity) {
    return with_image(path, most_pixels, false, error, capacity, [&](const ImageBuf& source) -> std::string {
        const ImageSpec& spec = source.spec();
        ImageBuf picked = pick_channels(source);
        double scale = std::min(1.0, static_cast<double>(side) / std::max(spec.width, spec.height));
        int width = std::max(1, static_cast<int>(spec.width * scale + 0.5));
        int height = std::max(1, static_cast<int>(spec.height * scale + 0.5));
        ImageBuf small = scale < 1 ? ImageBufAlgo::resize(picked, "", 0, ROI(0, width, 0, height, 0, 1, 0, picked.nchannels())) : picked;
        if (small.has_error()) return small.geterror();
        // Floating point pictures hold linear light: encode them for the display. Integer ones are shown as stored.
        if (spec.format.is_floating_point()) {
            small = ImageBufAlgo::clamp(small, 0.0f, 1.0f);
            small = ImageBufAlgo::colorconvert(small, "linear", "sRGB");
            if (small.has_error()) return small.geterror();
        }
        small.set_write_format(TypeDesc::UINT8);
        return small.write(output, TypeDesc::UINT8, "png") ? "" : small.geterror();
    });
}

// A difference hash: 9 x 8 greys, a bit for each that is brighter than its right neighbour, row by row from the lowest bit.
extern "C" __attribute__((visibility("default")))
int rootcall_look(const char* path, unsigned long long* look, long long most_pixels, char* error, int capacity) {
    return with_image(path, most_pixels, true, error, capacity, [&](const ImageBuf& source) -> std::string {
        ImageBuf picked = pick_channels(source);
        ImageBuf small = ImageBufAlgo::resize(picked, "triangle", 0, ROI(0, 9, 0, 8, 0, 1, 0, picked.nchannels()));
        if (small.has_error()) return small.geterror();
        auto grey = [&](int x, int y) {
            float pixel[4] = { 0, 0, 0, 0 };
            small.getpixel(x, y, 0, pixel, 4);
            return pixel[0] + pixel[1] + pixel[2];
        };
        *look = 0;
        for (int y = 0; y < 8; ++y)
            for (int x = 0; x < 8; ++x)
                if (grey(x, y) > grey(x + 1, y)) *look |= 1ull << (y * 8 + x);
        return "";
    });
}

// Stored values on an even grid of at most side x side pixels, unfiltered; 1 to 4 channels together, row by row.
extern "C" __attribute__((visibility("default")))
int rootcall_sample(const char* path, int side, float* values, int* width, int* height, int* channels, long long most_pixels,
                    char* error, int capacity) {
    return with_image(path, most_pixels, false, error, capacity, [&](const ImageBuf& source) -> std::string {
        const ImageSpec& spec = source.spec();
        Order order = order_of(spec);
        *channels = order.count;
        *width = std::min(side, spec.width);
        *height = std::min(side, spec.height);
        std::vector<float> pixel(spec.nchannels);
        for (int y = 0; y < *height; ++y)
            for (int x = 0; x < *width; ++x) {
                int px = spec.x + static_cast<int>((x + 0.5) * spec.width / *width);
                int py = spec.y + static_cast<int>((y + 0.5) * spec.height / *height);
                source.getpixel(px, py, 0, pixel.data(), spec.nchannels);
                for (int c = 0; c < *channels; ++c) *values++ = pixel[order.place[c]];
            }
        return "";
    });
}
