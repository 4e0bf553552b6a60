// What every program behind the wall does: it answers requests one at a time on its standard input and output, limits itself
// through the system before it opens or decodes anything, and ends when whoever started it is gone.
#pragma once

#include <fcntl.h>
#include <poll.h>
#include <sys/resource.h>
#include <unistd.h>

#include <cstdint>
#include <new>
#include <stdexcept>
#include <string>
#include <thread>

namespace wall {

enum class Status : int32_t { Done = 0, Unsupported = 1, Damaged = 2, TooLarge = 3, NoFile = 4 };

// Ends the request with a status and a sentence.
struct Refusal : std::runtime_error {
    Refusal(Status status, const std::string& why) : std::runtime_error(why), status(status) {}
    Status status;
};

inline int answers = 1;

inline void read_all(void* to, size_t count) {
    for (auto* at = static_cast<char*>(to); count > 0;) {
        ssize_t n = read(0, at, count);
        if (n <= 0) _exit(0);
        at += n, count -= n;
    }
}

inline void write_all(const void* from, size_t count) {
    for (auto* at = static_cast<const char*>(from); count > 0;) {
        ssize_t n = write(answers, at, count);
        if (n <= 0) _exit(0);
        at += n, count -= n;
    }
}

// Libraries that print must not speak into the answers.
inline void keep_quiet() {
    answers = fcntl(1, F_DUPFD, 10);
    int nothing = open("/dev/null", O_RDWR);
    dup2(nothing, 1), dup2(nothing, 2);
}

inline void limit(decltype(RLIMIT_AS) what, uint64_t most) {
    rlimit limit { static_cast<rlim_t>(most), static_cast<rlim_t>(most) };
    setrlimit(what, &limit);
}

// `data` and `addresses` are bytes; nothing can be written from here on.
inline void raise(uint64_t data, uint64_t addresses) {
    limit(RLIMIT_DATA, data);
    limit(RLIMIT_AS, addresses);
    limit(RLIMIT_NOFILE, 64);
    limit(RLIMIT_FSIZE, 0);
    limit(RLIMIT_CORE, 0);

    // Whoever asked may be killed while something is decoded.
    std::thread([] {
        pollfd in { 0, 0, 0 };
        while (poll(&in, 1, -1) <= 0 || !(in.revents & (POLLHUP | POLLERR))) {}
        _exit(0);
    }).detach();
}

// The request's processor time on top of what was used; the system ends the process that passes it.
inline void limit_time(uint32_t seconds) {
    rusage used;
    getrusage(RUSAGE_SELF, &used);
    rlimit limit { static_cast<rlim_t>(used.ru_utime.tv_sec + used.ru_stime.tv_sec + 1 + seconds), RLIM_INFINITY };
    setrlimit(RLIMIT_CPU, &limit);
}

// Does the work of a request; what it throws becomes a status and a sentence.
template <typename Work>
Status attempt(std::string& why, Work work) {
    try {
        work();
        return Status::Done;
    } catch (const Refusal& refusal) {
        why = refusal.what();
        return refusal.status;
    } catch (const std::bad_alloc&) {
        why = "needs more memory than is given";
        return Status::TooLarge;
    } catch (const std::exception& e) {
        why = e.what();
        return Status::Damaged;
    } catch (...) {
        why = "an unknown failure in the library";
        return Status::Damaged;
    }
}

}  // namespace wall
