<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\FrameRequest;
use App\Http\Requests\TextRequest;
use App\Models\Shot;
use App\Treatment\AssetFiles;
use App\Treatment\Recipes;
use Cossel\Core\Colour\CdlFile;
use Cossel\Core\Colour\Cube;
use Cossel\Core\Touch\Cdl;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Str;

/** Files that touches come from and go to: look-up tables and colour decision lists. */
final class FileController
{
    public function cube(TextRequest $request, AssetFiles $assets): JsonResponse
    {
        $text = $request->text();

        return new JsonResponse(['sha256' => $assets->keepCube($text), 'title' => Cube::parse($text)->title]);
    }

    /** The corrections of a .cc, .ccc or .cdl file as settings of touches. */
    public function readCdl(TextRequest $request): JsonResponse
    {
        return new JsonResponse(['corrections' => array_map(static function (array $found): array {
            $settings = ['saturation' => $found['saturation']];
            foreach (['slope', 'offset', 'power'] as $name) {
                foreach (Cdl::CHANNELS as $c => $channel) {
                    $settings[$name . $channel] = $found[$name][$c];
                }
            }

            return ['id' => $found['id'], 'settings' => $settings];
        }, CdlFile::read($request->text()))]);
    }

    public function writeCdl(FrameRequest $request, Shot $shot, string $touch, string $form, Recipes $recipes): Response
    {
        $found = $recipes->recipe($shot)->touch($touch);
        abort_unless($found->kind instanceof Cdl, 422, 'Only a colour decision list can be written as one.');
        $values = $found->values($request->frame());
        $triple = static fn(string $name): array => array_map(static fn(string $channel): float => $values[$name . $channel], Cdl::CHANNELS);
        $name = Str::slug("{$shot->name} {$touch}", '_');

        return new Response(CdlFile::write($form, [['id' => $name, 'slope' => $triple('slope'), 'offset' => $triple('offset'), 'power' => $triple('power'), 'saturation' => $values['saturation']]]), 200, ['Content-Type' => 'application/xml', 'Content-Disposition' => "attachment; filename=\"{$name}.{$form}\""]);
    }
}
