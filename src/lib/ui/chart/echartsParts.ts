import { BarChart, LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, MarkPointComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

use([
	BarChart,
	LineChart,
	ScatterChart,
	GridComponent,
	MarkLineComponent,
	MarkPointComponent,
	SVGRenderer
]);

export { init };
