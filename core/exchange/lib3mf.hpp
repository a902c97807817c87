#pragma once
/// \file For .cpp files: the library that packs and reads 3MF files.

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#include <Model/COM/NMR_DLLInterfaces.h>
#pragma GCC diagnostic pop

namespace gc {

/// Releases a library object at the end of its scope.
template <class T>
struct Owned {
    T* object = nullptr;
    ~Owned() {
        if (object) NMR::lib3mf_release(object);
    }
};

} // namespace gc
