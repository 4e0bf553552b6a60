// The wall behind which rays meet triangles (wall.h): Embree builds the hierarchy of one scene and answers rays in batches.
//
// It reads requests on standard input and answers on standard output, both as the structures below in this machine's byte
// order. The geometry is sent in pieces of points (three 32-bit floats) and triangles (three 32-bit indices) that follow their
// request, until Build; it cannot be changed afterwards. Rays and what became of them lie in a memory file that the program
// makes once and names in its first answer: the rays first, then from RAYS * sizeof(Ray) the hits, or a byte for each ray.
//
// Usage: rootcall-rays MEMORY RAYS THREADS: bytes, rays in a batch at most, threads that trace.
#include "wall.h"

#include <embree3/rtcore.h>
#include <pmmintrin.h>
#include <sys/mman.h>
#include <xmmintrin.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <cstdlib>
#include <vector>

using wall::Refusal;
using wall::Status;

namespace {

enum class Kind : uint32_t { Points = 0, Triangles = 1, Build = 2, Nearest = 3, Blocked = 4 };

struct Request {
    Kind kind;
    uint32_t count;    // points, triangles or rays
    uint32_t seconds;  // of processor time
    uint32_t unused;
};

struct Answer {
    Status status;
    uint32_t length;       // bytes of the sentence that follows
    uint64_t nanoseconds;  // on the clock, that the library took
};

struct Ray {
    float x, y, z, near, dx, dy, dz, far;
};

struct Hit {
    uint32_t triangle;  // all bits for none
    float distance, u, v;
};

// Rays that a thread takes at a time.
constexpr uint32_t Piece = 1024;

uint64_t memory_limit;
uint32_t most_rays;
unsigned most_threads;
char* shared;

std::vector<float> points;
std::vector<uint32_t> triangles;
RTCDevice device;
RTCScene scene;

void demand_room(uint64_t more) {
    if (scene) throw Refusal(Status::Damaged, "is built already");
    if (points.size() * sizeof(float) + triangles.size() * sizeof(uint32_t) + more > memory_limit / 3)
        throw Refusal(Status::TooLarge, "has more triangles than are traced");
}

void take_points(uint32_t count) {
    size_t first = points.size();
    points.resize(first + static_cast<size_t>(count) * 3);
    wall::read_all(points.data() + first, static_cast<size_t>(count) * 3 * sizeof(float));
    for (size_t i = first; i < points.size(); ++i)
        if (!std::isfinite(points[i])) throw Refusal(Status::Damaged, "has a place that is no number");
}

void take_triangles(uint32_t count) {
    size_t first = triangles.size();
    triangles.resize(first + static_cast<size_t>(count) * 3);
    wall::read_all(triangles.data() + first, static_cast<size_t>(count) * 3 * sizeof(uint32_t));
}

void build() {
    if (scene) throw Refusal(Status::Damaged, "is built already");
    size_t count = points.size() / 3;
    for (uint32_t index : triangles)
        if (index >= count) throw Refusal(Status::Damaged, "has a triangle that calls for a point that is not there");
    device = rtcNewDevice(("threads=" + std::to_string(most_threads)).c_str());
    if (!device) throw Refusal(Status::Damaged, "cannot be traced: the library does not start");
    scene = rtcNewScene(device);
    // No ray slips through between two triangles.
    rtcSetSceneFlags(scene, static_cast<RTCSceneFlags>(RTC_SCENE_FLAG_ROBUST | RTC_SCENE_FLAG_COMPACT));
    RTCGeometry geometry = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
    points.resize(points.size() + 4);  // the library reads 16 bytes of the last point
    rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, points.data(), 0, 12, count);
    rtcSetSharedGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, triangles.data(), 0, 12, triangles.size() / 3);
    rtcCommitGeometry(geometry);
    rtcAttachGeometry(scene, geometry);
    rtcReleaseGeometry(geometry);
    rtcCommitScene(scene);
    RTCError failed = rtcGetDeviceError(device);
    if (failed == RTC_ERROR_OUT_OF_MEMORY) throw std::bad_alloc();
    if (failed != RTC_ERROR_NONE) throw Refusal(Status::Damaged, "cannot be traced");
}

RTCRay ray_of(const Ray& from) {
    RTCRay ray {};
    ray.org_x = from.x, ray.org_y = from.y, ray.org_z = from.z, ray.tnear = from.near;
    ray.dir_x = from.dx, ray.dir_y = from.dy, ray.dir_z = from.dz, ray.tfar = from.far;
    ray.mask = ~0u;
    return ray;
}

void trace_piece(Kind kind, uint32_t from, uint32_t to) {
    auto* rays = reinterpret_cast<const Ray*>(shared);
    char* results = shared + static_cast<size_t>(most_rays) * sizeof(Ray);
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    for (uint32_t i = from; i < to; ++i) {
        if (kind == Kind::Blocked) {
            RTCRay ray = ray_of(rays[i]);
            rtcOccluded1(scene, &context, &ray);
            results[i] = ray.tfar < 0;
            continue;
        }
        RTCRayHit ray {};
        ray.ray = ray_of(rays[i]);
        ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
        rtcIntersect1(scene, &context, &ray);
        bool met = ray.hit.geomID != RTC_INVALID_GEOMETRY_ID;
        reinterpret_cast<Hit*>(results)[i] = { met ? ray.hit.primID : ~0u, ray.ray.tfar, ray.hit.u, ray.hit.v };
    }
}

void trace(Kind kind, uint32_t count) {
    if (!scene) throw Refusal(Status::Damaged, "is not built yet");
    if (count > most_rays) throw Refusal(Status::TooLarge, "was asked for more rays than fit");
    std::atomic<uint32_t> next { 0 };
    auto work = [&] {
        // As the library asks for: numbers below the smallest are zero.
        _MM_SET_FLUSH_ZERO_MODE(_MM_FLUSH_ZERO_ON);
        _MM_SET_DENORMALS_ZERO_MODE(_MM_DENORMALS_ZERO_ON);
        for (uint32_t from; (from = next.fetch_add(Piece)) < count;) trace_piece(kind, from, std::min(count, from + Piece));
    };
    std::vector<std::thread> others;
    for (unsigned i = 1; i < most_threads && i * Piece < count; ++i) others.emplace_back(work);
    work();
    for (auto& other : others) other.join();
}

void answer_one(const Request& request) {
    wall::limit_time(request.seconds);
    switch (request.kind) {
    case Kind::Points: return take_points(request.count);
    case Kind::Triangles: return take_triangles(request.count);
    case Kind::Build: return build();
    case Kind::Nearest:
    case Kind::Blocked: return trace(request.kind, request.count);
    }
    throw Refusal(Status::Unsupported, "was asked for something unknown");
}

}  // namespace

int main(int count, char** arguments) {
    if (count != 4) return 2;
    memory_limit = std::strtoull(arguments[1], nullptr, 10);
    most_rays = static_cast<uint32_t>(std::strtoul(arguments[2], nullptr, 10));
    most_threads = std::max(1u, static_cast<unsigned>(std::strtoul(arguments[3], nullptr, 10)));
    wall::keep_quiet();

    size_t bytes = static_cast<size_t>(most_rays) * (sizeof(Ray) + sizeof(Hit));
    int file = memfd_create("rootcall-rays", 0);
    if (file < 0 || ftruncate(file, static_cast<off_t>(bytes)) != 0) return 2;
    void* mapped = mmap(nullptr, bytes, PROT_READ | PROT_WRITE, MAP_SHARED, file, 0);
    if (mapped == MAP_FAILED) return 2;
    shared = static_cast<char*>(mapped);

    // A thread takes eight megabytes of addresses for its stack, and a heap of its own.
    wall::raise(memory_limit + bytes + (64u << 20), memory_limit + bytes + (512u << 20) + most_threads * (96ull << 20));

    wall::write_all(&file, sizeof file);
    while (true) {
        Request request;
        wall::read_all(&request, sizeof request);
        Answer answer {};
        std::string why;
        // What does not fit cannot be read past either: the pipe would be out of step, so the process ends.
        bool carries = request.kind == Kind::Points || request.kind == Kind::Triangles;
        if (carries && wall::attempt(why, [&] { demand_room(request.count * 12ull); }) != Status::Done) return 3;
        auto start = std::chrono::steady_clock::now();
        answer.status = wall::attempt(why, [&] { answer_one(request); });
        answer.nanoseconds = std::chrono::nanoseconds(std::chrono::steady_clock::now() - start).count();
        answer.length = answer.status == Status::Done ? 0 : static_cast<uint32_t>(why.size());
        wall::write_all(&answer, sizeof answer);
        wall::write_all(why.data(), answer.length);
    }
}
