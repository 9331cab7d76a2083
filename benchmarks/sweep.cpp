// The same loop as WorldKernel.Sweep, for comparison: world = parentWorld * local over 3x4 matrices, row by row.
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <vector>

constexpr int count = 100000, stride = 12;

static void sweep(double* __restrict worlds, const double* __restrict locals, const int* __restrict parents) {
  for (int i = 0; i < count; i++) {
    double* w = worlds + (long)i * stride;
    const double* l = locals + (long)i * stride;
    if (parents[i] < 0) {
      std::memcpy(w, l, stride * sizeof(double));
      continue;
    }
    const double* p = worlds + (long)parents[i] * stride;
    for (int r = 0; r < 3; r++) {
      const double a = p[4 * r], b = p[4 * r + 1], c = p[4 * r + 2];
      for (int k = 0; k < 4; k++) w[4 * r + k] = a * l[k] + b * l[4 + k] + c * l[8 + k];
      w[4 * r + 3] += p[4 * r + 3];
    }
  }
}

int main() {
  auto* locals = static_cast<double*>(std::aligned_alloc(64, count * stride * sizeof(double)));
  auto* worlds = static_cast<double*>(std::aligned_alloc(64, count * stride * sizeof(double)));
  std::vector<int> parents(count);
  const double local[stride] = {0.96, -0.28, 0, 0.1, 0.28, 0.96, 0, 0.2, 0, 0, 1, 0.3};
  for (int i = 0; i < count; i++) {
    parents[i] = i == 0 ? -1 : (i - 1) / 4;
    std::memcpy(locals + i * stride, local, sizeof local);
  }
  std::vector<double> times;
  for (int run = 0; run < 150; run++) {
    locals[3] = run;
    const auto start = std::chrono::steady_clock::now();
    sweep(worlds, locals, parents.data());
    times.push_back(std::chrono::duration<double, std::micro>(std::chrono::steady_clock::now() - start).count());
  }
  std::sort(times.begin() + 75, times.end());
  std::printf("%.1f %.17g\n", times[75 + 37], worlds[count * stride - 1]);
}
