// The wall behind which compressed geometry is unpacked (wall.h): what Draco packed for KHR_draco_mesh_compression and
// meshoptimizer for EXT_meshopt_compression.
//
// It reads requests on standard input and answers on standard output, both as the structures below in this machine's byte
// order. A request is followed by the packed bytes and, for Draco, the unique ids of the wanted attributes (32-bit). An answer
// is followed by `length` bytes: a sentence, the unpacked view, or Draco's indices (32-bit, three a triangle) and then for each
// attribute its width (32-bit) and values as they are stored (32-bit floats, point by point).
//
// Usage: rootcall-meshes MEMORY, in bytes.
#include "wall.h"

#include <draco/compression/decode.h>
#include <meshoptimizer.h>

#include <cstdlib>
#include <cstring>
#include <vector>

using wall::Refusal;
using wall::Status;

namespace {

enum class Kind : uint32_t { Meshopt = 0, Draco = 1 };
enum class Mode : uint32_t { Attributes = 0, Triangles = 1, Indices = 2 };
enum class Filter : uint32_t { None = 0, Octahedral = 1, Quaternion = 2, Exponential = 3 };

struct Request {
    Kind kind;
    uint32_t count, stride;  // of a view: elements, bytes of one
    Mode mode;
    Filter filter;
    uint32_t attributes;  // ids that follow the bytes
    uint32_t seconds;     // of processor time
    uint32_t length;      // bytes that follow
};

struct Answer {
    Status status;
    int32_t points, triangles;
    uint32_t unused;
    uint64_t length;
};

uint64_t memory_limit;

using Bytes = std::vector<unsigned char>;

// The library only asserts what it expects of a view; here it is checked.
void check(const Request& r) {
    bool fits = r.mode == Mode::Attributes ? r.stride > 0 && r.stride <= 256 && r.stride % 4 == 0
                                           : (r.stride == 2 || r.stride == 4) && (r.mode != Mode::Triangles || r.count % 3 == 0);
    bool filtered = r.filter == Filter::None
        || (r.mode == Mode::Attributes
            && (r.filter == Filter::Octahedral ? r.stride == 4 || r.stride == 8 : r.filter == Filter::Quaternion ? r.stride == 8 : true));
    if (!fits || !filtered) throw Refusal(Status::Damaged, "declares elements that its packing cannot have");
    if (static_cast<uint64_t>(r.count) * r.stride > memory_limit / 2) throw Refusal(Status::TooLarge, "declares more than is unpacked");
}

Bytes unpack_view(const Request& r, const Bytes& packed) {
    check(r);
    Bytes view(static_cast<size_t>(r.count) * r.stride);
    int failed = r.mode == Mode::Attributes ? meshopt_decodeVertexBuffer(view.data(), r.count, r.stride, packed.data(), packed.size())
        : r.mode == Mode::Triangles         ? meshopt_decodeIndexBuffer(view.data(), r.count, r.stride, packed.data(), packed.size())
                                            : meshopt_decodeIndexSequence(view.data(), r.count, r.stride, packed.data(), packed.size());
    if (failed) throw Refusal(Status::Damaged, "does not unpack");
    if (r.filter == Filter::Octahedral) meshopt_decodeFilterOct(view.data(), r.count, r.stride);
    if (r.filter == Filter::Quaternion) meshopt_decodeFilterQuat(view.data(), r.count, r.stride);
    if (r.filter == Filter::Exponential) meshopt_decodeFilterExp(view.data(), r.count, r.stride);
    return view;
}

template <typename T>
void add(Bytes& to, const T& value) {
    auto* bytes = reinterpret_cast<const unsigned char*>(&value);
    to.insert(to.end(), bytes, bytes + sizeof value);
}

template <typename T>
void add_values(Bytes& to, const draco::PointAttribute& attribute, uint32_t points) {
    T value[4] = {};
    for (uint32_t i = 0; i < points; ++i) {
        attribute.GetMappedValue(draco::PointIndex(i), value);
        for (int c = 0; c < attribute.num_components(); ++c) add(to, static_cast<float>(value[c]));
    }
}

void add_attribute(Bytes& to, const draco::PointAttribute* attribute, uint32_t points) {
    if (!attribute) throw Refusal(Status::Damaged, "lacks an attribute that the scene declares");
    int width = attribute->num_components();
    if (width < 1 || width > 4) throw Refusal(Status::Unsupported, "has an attribute of more than four numbers");
    add(to, static_cast<int32_t>(width));
    switch (attribute->data_type()) {
    case draco::DT_INT8: return add_values<int8_t>(to, *attribute, points);
    case draco::DT_UINT8: return add_values<uint8_t>(to, *attribute, points);
    case draco::DT_INT16: return add_values<int16_t>(to, *attribute, points);
    case draco::DT_UINT16: return add_values<uint16_t>(to, *attribute, points);
    case draco::DT_INT32: return add_values<int32_t>(to, *attribute, points);
    case draco::DT_UINT32: return add_values<uint32_t>(to, *attribute, points);
    case draco::DT_FLOAT32: return add_values<float>(to, *attribute, points);
    default: throw Refusal(Status::Unsupported, "has an attribute of a type that glTF does not have");
    }
}

Bytes unpack_mesh(const Bytes& packed, const std::vector<uint32_t>& ids, Answer& answer) {
    draco::DecoderBuffer buffer;
    buffer.Init(reinterpret_cast<const char*>(packed.data()), packed.size());
    draco::Decoder decoder;
    auto decoded = decoder.DecodeMeshFromBuffer(&buffer);
    if (!decoded.ok()) throw Refusal(Status::Damaged, decoded.status().error_msg_string());
    std::unique_ptr<draco::Mesh> mesh = std::move(decoded).value();
    answer.points = static_cast<int32_t>(mesh->num_points());
    answer.triangles = static_cast<int32_t>(mesh->num_faces());
    Bytes all;
    for (uint32_t f = 0; f < mesh->num_faces(); ++f)
        for (int k = 0; k < 3; ++k) add(all, static_cast<int32_t>(mesh->face(draco::FaceIndex(f))[k].value()));
    for (uint32_t id : ids) add_attribute(all, mesh->GetAttributeByUniqueId(id), mesh->num_points());
    return all;
}

}  // namespace

int main(int count, char** arguments) {
    if (count != 2) return 2;
    memory_limit = std::strtoull(arguments[1], nullptr, 10);
    wall::keep_quiet();
    wall::raise(memory_limit + (64u << 20), memory_limit + (512u << 20));
    uint32_t ready = 1;
    wall::write_all(&ready, sizeof ready);
    while (true) {
        Request request;
        wall::read_all(&request, sizeof request);
        Bytes packed, unpacked;
        std::vector<uint32_t> ids;
        Answer answer {};
        std::string why;
        // What does not fit cannot be read past either: the pipe would be out of step, so the process ends.
        if (request.length > memory_limit / 2 || request.attributes > 64) return 3;
        packed.resize(request.length);
        wall::read_all(packed.data(), packed.size());
        ids.resize(request.attributes);
        wall::read_all(ids.data(), ids.size() * sizeof ids[0]);
        answer.status = wall::attempt(why, [&] {
            wall::limit_time(request.seconds);
            unpacked = request.kind == Kind::Draco ? unpack_mesh(packed, ids, answer) : unpack_view(request, packed);
        });
        bool done = answer.status == Status::Done;
        answer.length = done ? unpacked.size() : why.size();
        wall::write_all(&answer, sizeof answer);
        wall::write_all(done ? static_cast<const void*>(unpacked.data()) : why.data(), answer.length);
    }
}
