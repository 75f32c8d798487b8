<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\ShotResource;
use App\Models\Shot;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

final class ShotController
{
    public function show(Shot $shot): ShotResource
    {
        return new ShotResource($shot);
    }

    public function update(Request $request, Shot $shot): ShotResource
    {
        $shot->update($request->validate(['name' => ['sometimes', 'string', 'min:1', 'max:120'], 'notes' => ['sometimes', 'string', 'max:4000']]));

        return new ShotResource($shot);
    }

    public function destroy(Shot $shot): Response
    {
        $shot->delete();

        return response()->noContent();
    }
}
