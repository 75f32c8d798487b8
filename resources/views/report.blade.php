<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>{{ $title }}</title>
<style>
body { margin: 24px auto; max-width: 1000px; color: #222; font: 12px/1.45 'DejaVu Sans', sans-serif; }
h1 { margin: 0 0 4px; font-size: 20px; }
h2 { margin: 0 0 4px; font-size: 15px; }
h3 { margin: 12px 0 2px; font-size: 12px; }
p { margin: 0 0 4px; }
ul { margin: 0; padding-left: 16px; }
section { margin: 20px 0 0; padding: 14px 0 0; border-top: 1px solid #bbb; page-break-inside: auto; }
section + section { page-break-before: always; }
table { width: 100%; border-collapse: collapse; }
td, th { padding: 2px 8px 2px 0; text-align: left; vertical-align: top; font-weight: normal; }
th { color: #666; }
.step { margin-top: 6px; }
.dim { color: #666; }
.open { font-weight: bold; }
.pictures td { width: 50%; padding: 6px 8px 0 0; }
.pictures img { width: 100%; }
.sum { font: 8px 'DejaVu Sans Mono', monospace; word-wrap: break-word; }
</style>
</head>
<body>
<h1>{{ $title }}</h1>
<p class="dim">{{ $made }} · {{ count($shots) }} {{ count($shots) === 1 ? 'shot' : 'shots' }}</p>
@foreach ($shots as $shot)
<section>
<h2>{{ $shot['name'] }}</h2>
@if (!$shot['ready'])
<p>{{ $shot['error'] ?? 'Its footage is not here yet.' }}</p>
@else
<p class="dim">{{ $shot['footage'] }}{{ $shot['cut'] === null ? '' : " · {$shot['cut']}" }} · revision {{ $shot['revision'] }} · {{ $shot['left'] }}</p>
<table class="pictures"><tr><td><img src="{{ $shot['before'] }}" alt="before"></td><td><img src="{{ $shot['after'] }}" alt="after"></td></tr><tr><td class="dim">Frame {{ $shot['frame'] }}, before</td><td class="dim">after</td></tr></table>
@if ($shot['notes'] !== '')
<h3>Notes</h3>
<p>{!! nl2br(e($shot['notes'])) !!}</p>
@endif
@if ($shot['frameNotes'] !== [])
<h3>Notes on frames</h3>
<ul>
@foreach ($shot['frameNotes'] as $note)
<li @class(['open' => !$note['resolved']])>{{ $note['frame'] }}: {{ $note['text'] }} <span class="dim">({{ $note['resolved'] ? 'resolved' : 'open' }})</span></li>
@endforeach
</ul>
@endif
<h3>What was done</h3>
@forelse ($shot['steps'] as $step)
<p class="step"><b>{{ $step['name'] }}</b>@if ($step['about'] !== '') <span class="dim">{{ $step['about'] }}</span>@endif</p>
<ul>
@foreach ($step['touches'] as $touch)
<li>{{ $touch }}</li>
@endforeach
</ul>
@empty
<p>Nothing yet.</p>
@endforelse
<h3>Tell-tales</h3>
@if ($shot['telltales'] === null)
<p>Not looked over as it is now.</p>
@elseif ($shot['telltales'] === [])
<p>None.</p>
@else
<table>
<tr><th>what</th><th>where</th><th>measure</th><th>limit</th><th>worst frame</th><th></th></tr>
@foreach ($shot['telltales'] as $t)
<tr @class(['open' => $t['rings']])><td>{{ $t['name'] }}</td><td>{{ $t['area'] }}</td><td>{{ $t['measure'] }} {{ $t['unit'] }}</td><td>{{ $t['limit'] }}</td><td>{{ $t['worst'] }}</td><td>{{ $t['rings'] ? 'over the limit' : '' }}</td></tr>
@endforeach
</table>
@endif
@if ($shot['versions'] !== [])
<h3>Versions</h3>
<p>{{ implode(', ', $shot['versions']) }}</p>
@endif
@if ($shot['deliveries'] !== [])
<h3>Delivered</h3>
@foreach ($shot['deliveries'] as $d)
<p>{{ $d['file'] }} <span class="dim">{{ $d['as'] }}, revision {{ $d['revision'] }}</span><br><span class="sum dim">{{ $d['sha256'] }}</span></p>
@endforeach
@endif
@endif
</section>
@endforeach
</body>
</html>
