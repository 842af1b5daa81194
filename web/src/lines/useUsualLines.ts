// The lines from which a form starts: one for each style, and behind these the rollers.
import { useQuery } from '@tanstack/vue-query'
import { api, take } from '@/api/client'

export const useUsualLines = () =>
  useQuery({
    queryKey: ['usual lines'],
    queryFn: () => take(api.GET('/api/lines/usual')),
    staleTime: Infinity,
  })
